<script setup lang="ts">
import { computed } from 'vue';
import { useRoute } from 'vue-router';
import { useJob } from '../stores/job.ts';
import { usePicture } from '../stores/picture.ts';
import { say } from '../i18n/say.ts';
import ProgressPart from './ProgressPart.vue';

/** The way of the picture as one line. Its parts are the stages; what is done of it is filled. */
const props = defineProps<{
  /** How many of the faults are mended or decided about, 0 to 1. */
  share: number;
}>();
const route = useRoute();
const job = useJob();
const picture = usePicture();

const isPictureOpen = computed(() => route.name === 'picture' && picture.picture !== null);
const stages = computed(() => {
  const params = { job: job.job?.id ?? '', picture: picture.picture?.id ?? '' };
  const stage = (label: string, name: string) => ({
    label,
    to: { name: 'picture', params: { ...params, stage: name } },
    here: route.params['stage'] === name,
  });
  const { name } = route;
  return [
    {
      label: say('stage.intake'),
      to: { name: 'intake', params: { job: params.job } },
      here: name === 'intake',
    },
    stage(say('stage.examine'), 'examine'),
    stage(say('stage.mend'), 'mend'),
    stage(say('stage.finish'), 'finish'),
    stage(say('stage.handOver'), 'hand-over'),
  ];
});
/** How much of each is done, 0 to 1. */
const fills = computed(() => {
  const examined = picture.picture?.examined === 'done' || picture.entries.length > 0 ? 1 : 0;
  return [1, examined, props.share, picture.finish.some(({ on }) => on) ? 1 : 0, 0];
});
/** Read by the parts: the links stay as they are while what is done grows: it does so with every mend. */
const filling = computed(() =>
  Object.fromEntries(fills.value.map((fill, index) => [`--filled-${index}`, `${fill * 100}%`])),
);
</script>

<template>
  <nav class="line" :aria-label="say('head.way')" :style="filling">
    <ProgressPart
      v-for="(stage, index) in stages"
      :key="stage.label"
      :stage="stage"
      :number="index"
      :is-open="index === 0 || isPictureOpen"
    />
  </nav>
</template>

<style scoped>
.line {
  display: flex;
  flex: none;
  align-self: stretch;
}
</style>
