<script setup lang="ts">
import Head from './head/Head.vue';
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
