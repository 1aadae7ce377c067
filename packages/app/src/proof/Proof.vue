<script setup lang="ts">
import type { Mend, Rect, SourceCandidate } from '@fennip/core';
import { growRect, intersectRects } from '@fennip/core';
import { computed, onBeforeUnmount, shallowRef, watch } from 'vue';
import { engine } from '../engine/engine.ts';
import { usePicture } from '../stores/picture.ts';
import { useView } from '../stores/view.ts';
import { useMending } from '../work/useMending.ts';
import { percent } from '../words/count.ts';
import ProofCell from './ProofCell.vue';

/** How much the difference is strengthened. */
const GAIN = 6;
/** Cells show at least this many pixels of the picture across. */
const LEAST_SIDE = 44;

const picture = usePicture();
const view = useView();
const { useSource, openPlaces } = useMending();
const entry = computed(() => view.focusEntry);
const candidates = shallowRef<readonly SourceCandidate[]>([]);
const version = shallowRef(0);

/** The square of the picture that the cells show. */
const rect = computed((): Rect | null => {
  const sheet = picture.picture;
  if (!entry.value || !sheet || sheet.state !== 'ready') return null;
  const { x, y, r } = entry.value;
  const half = Math.max(LEAST_SIDE / 2, Math.ceil(r * 2.6));
  const square = { left: Math.round(x) - half, top: Math.round(y) - half, width: 2 * half, height: 2 * half };
  return intersectRects(square, { left: 0, top: 0, width: sheet.width, height: sheet.height });
});

/** Recomputed only when the mend that is shown changes, not with every edit elsewhere. */
const mend = computed((): Mend | null => entry.value?.mend ?? null);

let asked = 0;
async function findCandidates(): Promise<void> {
  const turn = ++asked;
  const shown = mend.value;
  candidates.value = [];
  if (!shown) return;
  const { target, margin, edge } = shown;
  const found = await engine().sources({ target, margin, edge, avoid: openPlaces(), used: [] });
  if (turn === asked) candidates.value = found;
}
watch(() => mend.value?.id, findCandidates, { immediate: true });

/** Whether a rectangle that was repainted lies in what the cells show. */
const stop = picture.onRepaint((changed) => {
  if (rect.value && intersectRects(growRect(changed, 1), rect.value).width > 0) version.value++;
});
onBeforeUnmount(stop);

const before = (where: Rect) => engine().crop(where, 'before');
const after = (where: Rect) => engine().crop(where, 'after');
const change = (where: Rect) => engine().cropDifference(where, GAIN);
const withSource = (candidate: SourceCandidate) => (where: Rect) =>
  engine().preview({ ...(mend.value as Mend), source: { dx: candidate.dx, dy: candidate.dy } }, where);

const isTaken = ({ dx, dy }: SourceCandidate): boolean =>
  mend.value?.source?.dx === dx && mend.value.source.dy === dy;

/** Takes a candidate by its number, 1 to 6. */
function take(number: number): void {
  const candidate = candidates.value[number - 1];
  if (candidate && mend.value) useSource(mend.value, candidate);
}

const facts = computed(() => {
  const shown = entry.value;
  if (!shown) return [];
  return [
    ['Place', `${Math.round(shown.x)}, ${Math.round(shown.y)}`],
    ['Radius', `${shown.r.toFixed(1)} px`],
    ...(shown.strength === null ? [] : [['Strength', percent(shown.strength)]]),
    ...(shown.confidence === null ? [] : [['Confidence', shown.confidence.toFixed(2)]]),
    ['State', shown.state],
  ];
});

defineExpose({ take });
</script>

<template>
  <section class="proof" aria-label="Proof">
    <template v-if="entry && rect">
      <div class="facts">
        <h2>{{ entry.number }} · {{ entry.polarity === null ? 'by hand' : `${entry.polarity} speck` }}</h2>
        <dl>
          <template v-for="[name, value] in facts" :key="name">
            <dt>{{ name }}</dt>
            <dd class="figures">{{ value }}</dd>
          </template>
        </dl>
      </div>
      <ProofCell title="before" :rect="rect" :version="version" :paint="before" />
      <ProofCell title="after" :rect="rect" :version="version" :paint="after" />
      <ProofCell :title="`difference × ${GAIN}`" :rect="rect" :version="version" :paint="change" />
      <div v-if="mend" class="sources">
        <ProofCell
          v-for="(candidate, index) in candidates"
          :key="`${mend.id} ${candidate.dx} ${candidate.dy}`"
          :title="`${index + 1}`"
          :rect="rect"
          :version="0"
          :paint="withSource(candidate)"
          :is-taken="isTaken(candidate)"
          choosable
          @choose="take(index + 1)"
        />
      </div>
      <p v-else class="soft hint">Enter mends it. Backspace dismisses it.</p>
    </template>
    <p v-else class="soft hint">
      Choose a fault on the picture or in the ledger, and it is shown here close up, before and after.
    </p>
  </section>
</template>

<style scoped>
.proof {
  display: flex;
  align-items: stretch;
  gap: 8px;
  height: 152px;
  padding: 8px 10px;
  overflow-x: auto;
  overflow-y: hidden;
  border-top: 1px solid var(--line);
  background: var(--panel);
}
.facts {
  flex: none;
  width: 150px;
}
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 1px 10px;
  margin: 6px 0 0;
  font-size: 13px;
}
dt {
  color: var(--text-soft);
}
dd {
  margin: 0;
  text-align: right;
}
.sources {
  display: flex;
  flex: none;
  gap: 4px;
  padding-left: 8px;
  border-left: 1px solid var(--line);
}
.hint {
  align-self: center;
  padding: 0 8px;
}
</style>
