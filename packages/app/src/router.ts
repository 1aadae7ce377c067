import { createRouter, createWebHistory } from 'vue-router';
import { usePicture } from './stores/picture.ts';

/** The stages a picture goes through; each is an address. */
export type Stage = 'examine' | 'mend' | 'finish' | 'hand-over';

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'jobs', component: () => import('./pages/jobs/Jobs.vue') },
    { path: '/bin', name: 'bin', component: () => import('./pages/bin/BinPage.vue') },
    { path: '/sign-in', name: 'sign-in', component: () => import('./pages/people/SignIn.vue') },
    {
      path: '/invitation/:token',
      name: 'invitation',
      component: () => import('./pages/people/AcceptInvitation.vue'),
    },
    { path: '/people', name: 'people', component: () => import('./pages/people/PeoplePage.vue') },
    { path: '/behind', name: 'behind', component: () => import('./pages/behind/BehindPage.vue') },
    { path: '/jobs/:job', name: 'intake', component: () => import('./pages/intake/Intake.vue') },
    { path: '/jobs/:job/work', name: 'work', component: () => import('./pages/outlook/Outlook.vue') },
    { path: '/jobs/:job/series', name: 'series', component: () => import('./pages/series/Series.vue') },
    {
      path: '/jobs/:job/charts/:chart',
      name: 'chart',
      component: () => import('./pages/chart/ChartView.vue'),
    },
    { path: '/jobs/:job/doubts', name: 'doubts', component: () => import('./pages/doubts/Doubts.vue') },
    {
      path: '/jobs/:job/pictures/:picture/:stage(examine|mend|finish|hand-over)',
      name: 'picture',
      // The picture is fetched while the page that shows it is.
      beforeEnter: ({ params }) => void usePicture().open(String(params['picture'])),
      component: () => import('./pages/picture/PictureStage.vue'),
    },
    { path: '/:rest(.*)*', redirect: '/' },
  ],
});
