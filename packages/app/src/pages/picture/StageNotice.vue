<script setup lang="ts">
import { usePicture } from '../../stores/picture.ts';
import { say } from '../../i18n/say.ts';

/** What the restorer should know, until it is read. */
const picture = usePicture();
</script>

<template>
  <p v-if="picture.notice" class="notice" role="status">
    {{ picture.notice }}
    <el-button size="small" text @click="picture.notice = null">{{ say('act.close') }}</el-button>
  </p>
</template>

<style scoped>
.notice {
  display: flex;
  align-items: center;
  gap: 12px;
  margin: 0;
  padding: 4px 12px;
  border-left: 4px solid var(--open);
  background: var(--raised);
}
</style>
