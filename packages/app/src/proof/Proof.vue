<script setup lang="ts">
import type { Mend, Rect, SourceCandidate, Verdict } from '@fennip/core';
import { growRect, intersectRects, sourceOf } from '@fennip/core';
import { computed, onBeforeUnmount, shallowRef, watch } from 'vue';
import { byHand, engine } from '../engine/engine.ts';
import { usePicture } from '../stores/picture.ts';
import { useView } from '../stores/view.ts';
import { useMending } from '../work/useMending.ts';
import { percent } from '../words/count.ts';
import MendControls from './MendControls.vue';
import ProofCell from './ProofCell.vue';

/** How much the difference is strengthened. */
const GAIN = 6;
/** Cells show at least this many pixels of the picture across. */
const LEAST_SIDE = 44;

const picture = usePicture();
const view = useView();
const { fitSource, useSource, openPlaces } = useMending();
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
  if (turn === asked) candidates.value = found;
}
watch(() => [mend.value?.id, mend.value?.method], findCandidates, { immediate: true });

/** Whether a rectangle that was repainted lies in what the cells show. */
const stop = picture.onRepaint((changed) => {
  if (rect.value && intersectRects(growRect(changed, 1), rect.value).width > 0) version.value++;
});
onBeforeUnmount(stop);

const before = (where: Rect) => engine().crop(where, 'before');
const after = (where: Rect) => engine().crop(where, 'after');
const change = (where: Rect) => engine().cropDifference(where, GAIN);
const withSource = (candidate: SourceCandidate) => (where: Rect) => {
  const shown = mend.value;
  if (!shown || shown.method === 'bridge') return before(where);
  return byHand((hand) =>
    hand.preview({ mends: [{ ...shown, source: { dx: candidate.dx, dy: candidate.dy } }] }, where),
  );
};

const isTaken = ({ dx, dy }: SourceCandidate): boolean => {
  const source = mend.value ? sourceOf(mend.value) : null;
  return source?.dx === dx && source.dy === dy;
};

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
      <ProofCell :title="`change × ${GAIN}`" :rect="rect" :version="version" :paint="change" />
      <MendControls v-if="mend" :mend="mend" :verdict="verdict" @fit="fit" />
      <div v-if="mend && candidates.length > 0" class="sources">
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
      <p v-else-if="!mend" class="soft hint">Enter mends it. Backspace dismisses it.</p>
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
  width: 126px;
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
