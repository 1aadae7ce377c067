<script setup lang="ts">
import type { Mend, SpotMend } from '@fennip/core/mend';
import type { Rect } from '@fennip/core/raster';
import type { SourceCandidate } from '@fennip/core/source';
import { FIRST_SEED, isSourced, sourceOf } from '@fennip/core/mend';
import { MOST_SOURCES } from '@fennip/core/source';
import { watchDebounced } from '@vueuse/core';
import { computed, shallowRef, watch } from 'vue';
import { laterInMendWorker, engine } from '../engine/page/workers.ts';
import { usePicture } from '../stores/picture.ts';
import { openPlacesNow } from '../actions/mendingFaults.ts';
import { useMendChanges } from '../actions/useMendChanges.ts';
import { stepSaid } from '../i18n/say.ts';
import { AFTER_PIXELS_MS } from '../timing/afterPixels.ts';
import PaintOver from './PaintOver.vue';
import PatchVariants from './PatchVariants.vue';
import ProofCell from './ProofCell.vue';

/**
 * What else a mend could be made of: the places its texture could come from, or other proposals of a rebuild; each as it
 * would look. A number takes one.
 */
const props = defineProps<{ mend: Mend | null; rect: Rect | null }>();
const picture = usePicture();
const { change, useSource } = useMendChanges();
const sources = shallowRef<readonly SourceCandidate[]>([]);
/** True if the mend rested long enough for its other proposals to be worked out. */
const isOffered = shallowRef(false);
const version = shallowRef(0);

/** About so many pixels of the screen a cell has across: no finer need a proposal be. */
const CELL_PIXELS = 128;
/** So many proposals of a rebuild are offered. */
const PROPOSALS = 3;
const seeds = Array.from({ length: PROPOSALS }, (_, k) => FIRST_SEED + k);

let asked = 0;
async function find(): Promise<void> {
  const turn = ++asked;
  const shown = props.mend;
  if (shown?.method === 'rebuild') {
    isOffered.value = true;
    version.value++;
  }
  // A recover that leaves nothing to heal needs no source.
  if (!shown || !sourceOf(shown)) return;
  const { target, margin, edge } = shown;
  const found = await laterInMendWorker((hand) =>
    hand.sources({ target, margin, edge, avoid: openPlacesNow(), used: [] }),
  );
  if (turn !== asked) return;
  sources.value = found;
  version.value++;
}
const shownMend = (): string => `${props.mend?.id} ${props.mend?.method}`;
watch(shownMend, () => {
  asked++;
  sources.value = [];
  isOffered.value = false;
});
watchDebounced(shownMend, find, { debounce: AFTER_PIXELS_MS, immediate: true });

/** The mend as each candidate would have it. */
const candidates = computed((): readonly SpotMend[] => {
  const shown = props.mend;
  if (!shown) return [];
  if (shown.method === 'rebuild') return isOffered.value ? seeds.map((seed) => ({ ...shown, seed })) : [];
  return isSourced(shown) ? sources.value.map(({ dx, dy }) => ({ ...shown, source: { dx, dy } })) : [];
});

/** What the mend would look like as the candidate of that number. */
function paintCandidate(number: number, where: Rect): Promise<ImageBitmap> {
  const candidate = candidates.value[number - 1];
  if (!candidate) return engine().crop(where, 'before');
  if (candidate.method !== 'rebuild') return laterInMendWorker((hand) => hand.preview(candidate, where));
  const halvings = Math.max(0, Math.floor(Math.log2(where.width / CELL_PIXELS)));
  const { fences } = picture;
  return laterInMendWorker((hand) => hand.proposal(candidate, fences, where, halvings));
}

/** An edge fit moves a source by so many pixels at most; it is still the candidate it was. */
const FITTED_AWAY = 8;
const taken = computed((): number | null => {
  const shown = props.mend;
  if (shown?.method === 'rebuild') return seeds.includes(shown.seed) ? seeds.indexOf(shown.seed) + 1 : null;
  const source = shown && sourceOf(shown);
  if (!source) return null;
  const away = ({ dx, dy }: SourceCandidate): number => Math.hypot(dx - source.dx, dy - source.dy);
  const nearest = [...sources.value].sort((a, b) => away(a) - away(b)).at(0);
  return nearest && away(nearest) <= FITTED_AWAY ? sources.value.indexOf(nearest) + 1 : null;
});

/** Takes a candidate by its number, from 1. */
function take(number: number): void {
  const candidate = candidates.value[number - 1];
  const shown = props.mend;
  if (!candidate || !shown) return;
  if (candidate.method !== 'rebuild') useSource(shown, sources.value[number - 1]);
  else if (shown.method === 'rebuild' && shown.seed !== candidate.seed)
    change(candidate, stepSaid('step.otherProposal'));
}

/** Made once, so that a cell is drawn anew only for its own sake. */
const cells = Array.from({ length: MOST_SOURCES }, (_, i) => ({
  number: i + 1,
  paint: (where: Rect) => paintCandidate(i + 1, where),
  take: () => take(i + 1),
}));

defineExpose({ take });
</script>

<template>
  <div v-show="mend && candidates.length > 0" class="sources">
    <ProofCell
      v-for="cell in cells"
      v-show="candidates[cell.number - 1]"
      :key="cell.number"
      :title="`${cell.number}`"
      :rect="candidates[cell.number - 1] ? rect : null"
      :version="version"
      :paint="cell.paint"
      :is-taken="taken === cell.number"
      choosable
      @choose="cell.take"
    />
    <div v-if="mend?.method === 'rebuild'" class="more">
      <PatchVariants
        :mend="mend"
        :is-usable="!mend.locked"
        @change="(next) => change(next, stepSaid('step.variants'))"
      />
      <PaintOver :mend="mend" :is-usable="!mend.locked" />
    </div>
  </div>
</template>

<style scoped>
.sources {
  display: grid;
  flex: none;
  grid-template-columns: repeat(3, auto);
  align-content: start;
  gap: 2px 4px;
  padding-left: 8px;
  border-left: 1px solid var(--line);
}
.more {
  display: flex;
  grid-column: 1 / -1;
  flex-direction: column;
  align-items: flex-start;
  gap: 4px;
  font-size: 13px;
}
</style>
