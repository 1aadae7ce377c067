import type { VueWrapper } from '@vue/test-utils';
import { mount } from '@vue/test-utils';
import { getActivePinia } from 'pinia';
import type { Component } from 'vue';
import { createMemoryHistory, createRouter } from 'vue-router';

const Page = { template: '<div />' };

/** Mounts a part of the page as the page does: with its stores, and addresses that lead somewhere. */
export function mountPart(part: Component, props: Record<string, unknown> = {}): VueWrapper {
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [
      { path: '/', name: 'jobs', component: Page },
      { path: '/bin', name: 'bin', component: Page },
      { path: '/behind', name: 'behind', component: Page },
      { path: '/sign-in', name: 'sign-in', component: Page },
      { path: '/people', name: 'people', component: Page },
      { path: '/jobs/:job', name: 'intake', component: Page },
      { path: '/:any(.*)*', component: Page },
    ],
  });
  const pinia = getActivePinia();
  return mount(part, {
    props,
    global: { plugins: [router, ...(pinia ? [pinia] : [])] },
    attachTo: document.body,
  });
}
