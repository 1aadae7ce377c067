<script setup lang="ts">
import type { Mend, Rect, SourceCandidate, Verdict } from '@fennip/core';
import { MOST_SOURCES, growRect, intersectRects, sourceOf } from '@fennip/core';
import { computed, onBeforeUnmount, shallowRef, watch } from 'vue';
import { DIFFERENCE_GAIN } from '../engine/differenceGain.ts';
import { byHand, engine } from '../engine/engine.ts';
import { usePicture } from '../stores/picture.ts';
import { useView } from '../stores/view.ts';
import { useMending } from '../work/useMending.ts';
import { percent } from '../words/count.ts';
import MendControls from './MendControls.vue';
import ProofCell from './ProofCell.vue';

/** Cells show at least this many pixels of the picture across. */
const LEAST_SIDE = 44;

const picture = usePicture();
const view = useView();
const { fitSource, useSource, openPlaces } = useMending();
const entry = computed(() => view.focusEntry);
const candidates = shallowRef<readonly SourceCandidate[]>([]);
const candidatesVersion = shallowRef(0);
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

/** The mend that is shown: as it is being changed, while it is. */
const mend = computed((): Mend | null => {
  const own = entry.value?.mend ?? null;
  return own && picture.drafted?.id === own.id ? picture.drafted : own;
});

const verdict = shallowRef<Verdict | null>(null);
let judged = 0;
watch(
  () => entry.value?.mend ?? null,
  async (shown) => {
    const turn = ++judged;
    verdict.value = null;
    const found = shown ? await byHand((hand) => hand.judge(shown)) : null;
    if (turn === judged) verdict.value = found;
  },
  { immediate: true },
);

let asked = 0;
async function findCandidates(): Promise<void> {
  const turn = ++asked;
  const shown = mend.value;
  candidates.value = [];
  // A recover that leaves nothing to heal needs no source.
  if (!shown || !sourceOf(shown)) return;
  const { target, margin, edge } = shown;
  const found = await byHand((hand) => hand.sources({ target, margin, edge, avoid: openPlaces(), used: [] }));
  if (turn !== asked) return;
  candidates.value = found;
  candidatesVersion.value++;
}
watch(() => [mend.value?.id, mend.value?.method], findCandidates, { immediate: true });

/** Whether a rectangle that was repainted lies in what the cells show. */
const stop = picture.onRepaint((changed) => {
  if (rect.value && intersectRects(growRect(changed, 1), rect.value).width > 0) version.value++;
});
onBeforeUnmount(stop);

const before = (where: Rect) => engine().crop(where, 'before');
const after = (where: Rect) => engine().crop(where, 'after');
const change = (where: Rect) => engine().cropDifference(where);
/** What the mend would look like with a source of that number. */
function paintCandidate(number: number, where: Rect): Promise<ImageBitmap> {
  const shown = mend.value;
  const candidate = candidates.value[number - 1];
  if (!shown || shown.method === 'bridge' || !candidate) return before(where);
  const { dx, dy } = candidate;
  return byHand((hand) => hand.preview({ mends: [{ ...shown, source: { dx, dy } }] }, where));
}

/** An edge fit moves a source by so many pixels at most; it is still the candidate it was. */
const FITTED_AWAY = 8;
const taken = computed((): SourceCandidate | null => {
  const source = mend.value && sourceOf(mend.value);
  if (!source) return null;
  const away = ({ dx, dy }: SourceCandidate): number => Math.hypot(dx - source.dx, dy - source.dy);
  const nearest = [...candidates.value].sort((a, b) => away(a) - away(b)).at(0);
  return nearest && away(nearest) <= FITTED_AWAY ? nearest : null;
});

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

/** Fits the source of the mend that is shown edge to edge. */
async function fit(): Promise<void> {
  if (!mend.value || !sourceOf(mend.value)) return;
  const residual = await fitSource(mend.value);
  picture.notice =
    residual === null
      ? 'There is no edge here to fit.'
      : `Fitted: edges still miss each other by ${residual.toFixed(2)} px.`;
}

defineExpose({ take, fit });
</script>

<template>
  <!-- All of it stays mounted: what changes with every mend must not be built anew with every mend. -->
  <section class="proof" aria-label="Proof">
    <div v-show="rect" class="facts">
      <h2 v-if="entry">
        {{ entry.number }} · {{ entry.polarity === null ? 'by hand' : `${entry.polarity} speck` }}
      </h2>
      <dl>
        <template v-for="[name, value] in facts" :key="name">
          <dt>{{ name }}</dt>
          <dd class="figures">{{ value }}</dd>
        </template>
      </dl>
    </div>
    <ProofCell v-show="rect" title="before" :rect="rect" :version="version" :paint="before" />
    <ProofCell v-show="rect" title="after" :rect="rect" :version="version" :paint="after" />
    <ProofCell
      v-show="rect"
      :title="`change × ${DIFFERENCE_GAIN}`"
      :rect="rect"
      :version="version"
      :paint="change"
    />
    <MendControls v-show="mend" :mend="mend" :verdict="verdict" @fit="fit" />
    <div v-show="mend && candidates.length > 0" class="sources">
      <ProofCell
        v-for="number in MOST_SOURCES"
        v-show="candidates[number - 1]"
        :key="number"
        :title="`${number}`"
        :rect="candidates[number - 1] ? rect : null"
        :version="candidatesVersion"
        :paint="(where: Rect) => paintCandidate(number, where)"
        :is-taken="taken !== null && candidates[number - 1] === taken"
        choosable
        @choose="take(number)"
      />
    </div>
    <p v-if="!rect" class="soft hint">
      Choose a fault on the picture or in the ledger, and it is shown here close up, before and after.
    </p>
    <p v-else-if="!mend" class="soft hint">Enter mends it. Backspace dismisses it.</p>
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
  width: 132px;
}
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 1px 6px;
  margin: 6px 0 0;
  font-size: 13px;
  white-space: nowrap;
}
dd.figures {
  letter-spacing: -0.03em;
}
dt {
  color: var(--text-soft);
}
dd {
  margin: 0;
  text-align: right;
}
.sources {
  display: grid;
  flex: none;
  grid-template-columns: repeat(3, auto);
  gap: 2px 4px;
  padding-left: 8px;
  border-left: 1px solid var(--line);
}
.hint {
  align-self: center;
  padding: 0 8px;
}
</style>
