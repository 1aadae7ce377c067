<script setup lang="ts">
import type { RouteLocationRaw } from 'vue-router';

/** One stage on the line: a link once it can be gone to. How much of it is filled is read from the line's style. */
defineProps<{
  stage: { readonly label: string; readonly to: RouteLocationRaw; readonly here: boolean };
  /** Its place on the line, from 0. */
  number: number;
  isOpen: boolean;
}>();
</script>

<template>
  <router-link
    v-if="isOpen"
    :to="stage.to"
    class="part"
    :class="{ here: stage.here }"
    :aria-current="stage.here ? 'step' : undefined"
  >
    <span>{{ stage.label }}</span>
    <i><b :style="{ width: `var(--filled-${number})` }" /></i>
  </router-link>
  <span v-else class="part later">
    <span>{{ stage.label }}</span>
    <i />
  </span>
</template>

<style scoped>
.part {
  display: flex;
  flex-direction: column;
  justify-content: flex-end;
  width: 92px;
  padding-bottom: 9px;
  color: var(--head-soft);
  font-size: 13px;
  text-decoration: none;
}
.part span {
  padding: 0 0 4px;
}
.part i {
  display: block;
  height: 4px;
  background: #5a5a5a;
}
.part b {
  display: block;
  height: 100%;
  background: #d8d8d8;
}
a.part:focus-visible {
  outline-offset: -3px;
}
a.part:hover {
  color: #fff;
}
.here {
  color: #fff;
  font-weight: 600;
}
.here b {
  background: #fff;
}
.later {
  opacity: 0.75;
}
</style>
