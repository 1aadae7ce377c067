<script setup lang="ts">
import { pyramidLevels } from '@fennip/core/raster';
import type { Picture } from '@fennip/contract';
import { computed, onMounted, ref, watch } from 'vue';
import { engine } from '../engine/page/workers.ts';
import { useJob } from '../stores/job.ts';
import { megapixels, percent } from '../i18n/figures.ts';
import { workLine } from '../i18n/workWords.ts';
import { say, sayCount, sayText } from '../i18n/say.ts';

/** One picture as a contact print: what it shows, what it is, and how far it has come. */
const props = defineProps<{ picture: Picture }>();
const job = useJob();
const canvas = ref<HTMLCanvasElement | null>(null);

const share = computed(() => (props.picture.faults > 0 ? props.picture.settled / props.picture.faults : 0));
/** The ring of progress: a circle of radius 9. */
const AROUND = 2 * Math.PI * 9;

const why = (reason: string | null): string => (reason === null ? '' : sayText(reason));

const line = computed(() => {
  const { state, problem, examined, examineProblem, faults, settled } = props.picture;
  if (props.picture.setAside) return say('print.setAside');
  if (state === 'failed') return problem === null ? say('print.unreadable') : sayText(problem);
  const preparing = job.workShare(props.picture.id, 'prepare');
  if (state === 'preparing')
    return preparing === null ? say('print.reading') : say('print.preparing', { share: percent(preparing) });
  const examining = job.workShare(props.picture.id, 'examine');
  if (examined === 'running' || examined === 'waiting')
    return examining === null
      ? say('print.examining')
      : say('print.examiningShare', { share: percent(examining) });
  if (examined === 'failed')
    return [say('print.examinationFailed'), why(examineProblem)].filter(Boolean).join(' ');
  if (examined === 'none') return say('print.notExamined');
  return faults === 0 ? say('print.foundNothing') : sayCount('print.open', faults - settled, { all: faults });
});

const whatItIs = computed(() => {
  const { nature: kind, width, height, density, depth } = props.picture;
  const nature = say(`nature.${kind}`);
  if (kind === 'frame' || !density)
    return say('print.frame', { nature, size: megapixels(width, height), depth });
  const inches = (side: number): string => (side / density).toFixed(1);
  const ppi = Math.round(density);
  return say('print.print', { nature, width: inches(width), height: inches(height), ppi, depth });
});

const work = computed(() => (props.picture.setAside ? null : workLine(props.picture)));

const camera = computed(() => {
  const { camera: name, fNumber } = props.picture.capture;
  const taken = name && fNumber !== undefined ? say('print.fNumber', { camera: name, n: fNumber }) : name;
  const part = props.picture.sensorPart;
  if (!part) return taken;
  const from = { left: Math.round(part.left), top: Math.round(part.top) };
  return [taken, say('print.part', from)].filter(Boolean).join(' · ');
});

async function draw(): Promise<void> {
  const { pyramid, width, height, depth, channels, finestLevel } = props.picture;
  if (finestLevel === null || !canvas.value) return;
  const coarsest = pyramidLevels(width, height).length - 1;
  const bitmap = await engine()
    .thumbnail({ pyramid, width, height, depth, channels }, coarsest)
    .catch(() => null);
  if (!bitmap || !canvas.value) return;
  canvas.value.width = bitmap.width;
  canvas.value.height = bitmap.height;
  canvas.value.getContext('2d')?.drawImage(bitmap, 0, 0);
  bitmap.close();
}
onMounted(draw);
watch(() => props.picture.finestLevel === null, draw);
</script>

<template>
  <article class="print" :class="[picture.state, { aside: picture.setAside }]">
    <div class="image"><canvas ref="canvas" aria-hidden="true" /></div>
    <div class="words">
      <svg
        v-if="picture.faults > 0"
        viewBox="0 0 24 24"
        class="ring"
        role="img"
        :aria-label="say('print.settled', { share: percent(share) })"
      >
        <circle cx="12" cy="12" r="9" class="whole" />
        <circle cx="12" cy="12" r="9" class="done" :stroke-dasharray="`${share * AROUND} ${AROUND}`" />
      </svg>
      <strong>{{ picture.name }}</strong>
      <p>{{ line }}</p>
      <p v-if="work">{{ work }}</p>
      <p v-if="picture.state !== 'failed'" class="soft">{{ whatItIs }}</p>
      <p v-if="camera" class="soft">{{ camera }}</p>
    </div>
  </article>
</template>

<style scoped>
.print {
  width: 236px;
  padding: 10px;
  border: 1px solid var(--line);
  background: var(--raised);
}
.image {
  display: grid;
  height: 152px;
  background: var(--surround);
  place-items: center;
}
canvas {
  max-width: 100%;
  max-height: 152px;
}
.words {
  position: relative;
  padding-top: 8px;
  font-size: 13px;
}
strong {
  display: block;
  overflow: hidden;
  padding-right: 26px;
  font-size: 14px;
  font-weight: 600;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.aside {
  opacity: 0.6;
}
.failed p {
  color: var(--open);
}
.ring {
  position: absolute;
  top: 7px;
  right: 0;
  width: 22px;
  height: 22px;
}
.ring circle {
  fill: none;
  stroke-width: 5;
  transform: rotate(-90deg);
  transform-origin: center;
}
.whole {
  stroke: var(--line);
}
.done {
  stroke: var(--mended);
}
</style>
