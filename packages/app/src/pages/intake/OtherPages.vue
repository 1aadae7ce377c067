<script setup lang="ts">
import type { Picture } from '@fennip/contract';
import { computed } from 'vue';
import { call } from '../../api/call.ts';
import { useTrying } from '../../controls/useTrying.ts';
import { useJob } from '../../stores/job.ts';
import { sayCount } from '../../i18n/say.ts';

/** The other pictures of a file that holds several: offered, until they are pictures of their own. */
const props = defineProps<{ readonly picture: Picture }>();
const job = useJob();
const { problem, isTrying, trying } = useTrying();
const left = computed(() => {
  const taken = new Set(
    job.pictures.flatMap(({ pageOf }) => (pageOf?.picture === props.picture.id ? [pageOf.page] : [])),
  );
  const others = Array.from({ length: Math.max(0, props.picture.pages - 1) }, (_, k) => k + 1);
  return others.filter((page) => !taken.has(page));
});

/** One after the other: they stand in the job as in the file. */
const take = (): Promise<void> =>
  trying(async () => {
    for (const page of left.value) await call('takePage', { picture: props.picture.id, page: String(page) });
  });
</script>

<template>
  <div v-if="left.length > 0" class="pages">
    <el-button size="small" :loading="isTrying" :data-pages="picture.name" @click="take">{{
      sayCount('intake.otherPages', left.length)
    }}</el-button>
    <p v-if="problem" role="alert">{{ problem }}</p>
  </div>
</template>

<style scoped>
.pages {
  max-width: 236px;
  margin-top: 4px;
}
p {
  margin: 4px 0 0;
  color: var(--open);
  font-size: 13px;
}
</style>
