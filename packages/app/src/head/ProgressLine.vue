<script setup lang="ts">
import { computed } from 'vue';
import { useRoute } from 'vue-router';
import { useJob } from '../stores/job.ts';
import { usePicture } from '../stores/picture.ts';
import { say } from '../words/say.ts';

/** The way of the picture as one line. Its parts are the stages; what is done of it is filled. */
const props = defineProps<{
  /** How many of the faults are mended or decided about, 0 to 1. */
  share: number;
}>();
const route = useRoute();
const job = useJob();
const picture = usePicture();

const isPictureOpen = computed(() => route.name === 'picture' && picture.picture !== null);
const parts = computed(() => {
  const params = { job: job.job?.id ?? '', picture: picture.picture?.id ?? '' };
  const examined = picture.picture?.examined === 'done' || picture.entries.length > 0 ? 1 : 0;
  const stage = (name: string): { name: string; params: Record<string, string> } => ({
    name: 'picture',
    params: { ...params, stage: name },
  });
  return [
    {
      label: say('stage.intake'),
      to: { name: 'intake', params: { job: params.job } },
      fill: 1,
      here: route.name === 'intake',
    },
    {
      label: say('stage.examine'),
      to: stage('examine'),
      fill: examined,
      here: route.params['stage'] === 'examine',
    },
    {
      label: say('stage.mend'),
      to: stage('mend'),
      fill: props.share,
      here: route.params['stage'] === 'mend',
    },
    {
      label: say('stage.finish'),
      to: stage('finish'),
      fill: picture.finish.some(({ on }) => on) ? 1 : 0,
      here: route.params['stage'] === 'finish',
    },
    {
      label: say('stage.handOver'),
      to: stage('hand-over'),
      fill: 0,
      here: route.params['stage'] === 'hand-over',
    },
  ];
});
</script>

<template>
  <nav class="line" :aria-label="say('head.way')">
    <template v-for="(part, index) in parts" :key="part.label">
      <router-link
        v-if="index === 0 || isPictureOpen"
        :to="part.to"
        class="part"
        :class="{ here: part.here }"
        :aria-current="part.here ? 'step' : undefined"
      >
        <span>{{ part.label }}</span>
        <i><b :style="{ width: `${(isPictureOpen ? part.fill : index === 0 ? 1 : 0) * 100}%` }" /></i>
      </router-link>
      <span v-else class="part later">
        <span>{{ part.label }}</span>
        <i />
      </span>
    </template>
  </nav>
</template>

<style scoped>
.line {
  display: flex;
  flex: none;
  align-self: stretch;
}
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
