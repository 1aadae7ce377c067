<script setup lang="ts">
import { addressOf } from '@fennip/contract';
import type { Run, RunPiece, RunSteer } from '@fennip/contract';
import { computed, ref, watch } from 'vue';
import { call } from '../../api/call.ts';
import { useJob } from '../../stores/job.ts';
import { timeOf } from '../../i18n/figures.ts';
import { say, sayCount, sayText } from '../../i18n/say.ts';
import { duration } from '../../i18n/workWords.ts';

/** One run: how far it is, how fast, what it did, and picture by picture what came of it. */
const props = defineProps<{ run: Run }>();
const emit = defineEmits<{ steer: [to: RunSteer['to']] }>();
const job = useJob();
const pieces = ref<RunPiece[] | null>(null);
const isOpen = ref(false);

const ended = computed(() => props.run.done + props.run.skipped + props.run.failed);
const share = computed(() => Math.round((100 * ended.value) / Math.max(1, props.run.pieces)));
const isUnderWay = computed(() => props.run.state === 'running' || props.run.state === 'paused');

/** How a run stands that is under way. */
function underWay({ work, perMinute, secondsLeft, pieces: all }: Run): string[] {
  return [
    work ? say(`run.work.${work}`) : say('run.begins'),
    say('run.of', { done: ended.value, all }),
    ...(perMinute === null ? [] : [say('run.speed', { n: perMinute.toFixed(perMinute < 10 ? 1 : 0) })]),
    ...(secondsLeft === null ? [] : [say('run.left', { time: duration(secondsLeft) })]),
  ];
}

/** What a run did that has ended. */
function summary({ state, done, skipped, failed, mended, doubts, kind }: Run): string[] {
  return [
    say(state === 'stopped' ? 'run.stopped' : 'run.done'),
    ...(kind === 'delivery' ? [sayCount('count.picture', done)] : [sayCount('count.mend', mended)]),
    ...(doubts > 0 ? [sayCount('run.doubts', doubts)] : []),
    ...(skipped > 0 ? [sayCount('run.skipped', skipped)] : []),
    ...(failed > 0 ? [sayCount('run.failed', failed)] : []),
  ];
}

const line = computed(() => {
  const { run } = props;
  if (run.state === 'paused') return say('run.paused', { done: ended.value, all: run.pieces });
  return (run.state === 'running' ? underWay(run) : summary(run)).join(' · ');
});

/** What it is, and of what. */
const title = computed(() => {
  const { request, kind } = props.run;
  if (request.kind === 'routine') return say('run.kind.routineOf', { name: request.name });
  if (request.kind !== 'carry') return say(`run.kind.${kind}`);
  const from = job.pictures.find(({ id }) => id === request.from);
  return from ? say('run.kind.carryFrom', { name: from.name }) : say('run.kind.carry');
});

const nameOf = ({ pictureId, work }: RunPiece): string =>
  job.pictures.find(({ id }) => id === pictureId)?.name ?? say(`run.work.${work}`);

function outcomeOf({ state, outcome, work }: RunPiece): string {
  const { reason, mended, found, left = {}, doubts = [], fileName } = outcome;
  if (state === 'waiting') return say('run.piece.waiting');
  if (state === 'running') return say('run.piece.running');
  if (reason !== undefined)
    return say(`run.piece.${state === 'failed' ? 'failed' : 'skipped'}`, { reason: sayText(reason) });
  return [
    ...(found === undefined ? [] : [sayCount(work === 'examine' ? 'count.fault' : 'run.places', found)]),
    ...(mended === undefined ? [] : [sayCount('count.mend', mended)]),
    ...(doubts.length > 0 ? [sayCount('run.doubts', doubts.length)] : []),
    ...Object.entries(left).map(([why, n]) => say('run.leftOut', { n, why: sayText(why) })),
    ...(fileName === undefined ? [] : [fileName]),
  ].join(' · ');
}

async function load(): Promise<void> {
  pieces.value = await call('runPieces', { run: props.run.id }).catch(() => pieces.value);
}
function turn(event: Event): void {
  isOpen.value = (event.target as HTMLDetailsElement).open;
}
watch([isOpen, ended, () => props.run.state], () => {
  if (isOpen.value) void load();
});
</script>

<template>
  <article class="run" :data-run="run.kind" :data-state="run.state">
    <div class="head">
      <strong>{{ title }}</strong>
      <span class="soft">{{ timeOf(run.createdAt) }}</span>
      <span class="acts">
        <el-button v-if="run.state === 'running'" size="small" @click="emit('steer', 'pause')">{{
          say('run.pause')
        }}</el-button>
        <el-button v-if="run.state === 'paused'" size="small" @click="emit('steer', 'resume')">{{
          say('run.resume')
        }}</el-button>
        <el-button v-if="isUnderWay" size="small" @click="emit('steer', 'stop')">{{
          say('run.stop')
        }}</el-button>
        <a
          v-if="run.kind === 'delivery' && run.state === 'done' && run.done > 0"
          :href="addressOf('runArchive', { run: run.id })"
          download
          >{{ say('run.zip') }}</a
        >
      </span>
    </div>
    <el-progress
      v-if="isUnderWay"
      :percentage="share"
      :stroke-width="6"
      :show-text="false"
      :aria-label="say('run.share')"
    />
    <p data-testid="run-line">{{ line }}</p>
    <details @toggle="turn">
      <summary class="soft">{{ say('run.pieces') }}</summary>
      <ul v-if="pieces">
        <li v-for="piece in pieces" :key="piece.number" :class="piece.state">
          <router-link
            v-if="piece.pictureId"
            :to="{
              name: 'picture',
              params: { job: run.jobId, picture: piece.pictureId, stage: 'mend' },
            }"
            >{{ nameOf(piece) }}</router-link
          >
          <span v-else>{{ nameOf(piece) }}</span>
          <span class="soft">{{ say(`run.work.${piece.work}`) }}</span>
          <span>{{ outcomeOf(piece) }}</span>
        </li>
      </ul>
    </details>
  </article>
</template>

<style scoped>
.run {
  margin-bottom: 8px;
  padding: 10px 14px;
  border: 1px solid var(--line);
  background: var(--raised);
}
.head {
  display: flex;
  align-items: center;
  gap: 10px;
  min-height: 24px;
}
.acts {
  display: flex;
  gap: 6px;
  margin-left: auto;
}
.acts .el-button + .el-button {
  margin-left: 0;
}
.el-progress {
  margin: 4px 0;
}
summary {
  cursor: pointer;
}
ul {
  margin: 4px 0 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: minmax(120px, 1.2fr) minmax(80px, 0.8fr) 3fr;
  gap: 10px;
  padding: 3px 0;
  font-size: 13px;
}
li > :first-child {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.failed {
  color: var(--open);
}
</style>
