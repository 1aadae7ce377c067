<script setup lang="ts">
import { useRoute, useRouter } from 'vue-router';
import { onNotSignedIn } from './api/http.ts';
import Head from './head/Head.vue';
import { useSession } from './stores/session.ts';

const router = useRouter();
const route = useRoute();
// Whatever is asked while nobody is signed in leads to where one signs in, and back.
onNotSignedIn(() => {
  if (route.name !== 'sign-in' && route.name !== 'invitation')
    void router.push({ name: 'sign-in', query: { to: route.fullPath } });
});
void useSession().load();
</script>

<template>
  <Head />
  <main>
    <router-view />
  </main>
</template>

<style scoped>
main {
  position: relative;
  min-height: 0;
  overflow: hidden;
}
</style>
