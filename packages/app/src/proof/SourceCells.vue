<script setup lang="ts">
import type { Mend, Rect, SourceCandidate } from '@fennip/core';
import { MOST_SOURCES, isSourced, sourceOf } from '@fennip/core';
import { watchDebounced } from '@vueuse/core';
import { computed, shallowRef, watch } from 'vue';
import { byHand, engine } from '../engine/engine.ts';
import { openPlaces } from '../work/mendingFaults.ts';
import { useMending } from '../work/useMending.ts';
import { AFTER_PIXELS_MS } from './afterPixels.ts';
import ProofCell from './ProofCell.vue';

/** The places a mend's texture could come from, as each of them would look; a number takes one. */
const props = defineProps<{ mend: Mend | null; rect: Rect | null }>();
const { useSource } = useMending();
const candidates = shallowRef<readonly SourceCandidate[]>([]);
const version = shallowRef(0);

let asked = 0;
async function find(): Promise<void> {
  const turn = ++asked;
  const shown = props.mend;
  // A recover that leaves nothing to heal needs no source.
  if (!shown || !sourceOf(shown)) return;
  const { target, margin, edge } = shown;
  const found = await byHand((hand) => hand.sources({ target, margin, edge, avoid: openPlaces(), used: [] }));
  if (turn !== asked) return;
  candidates.value = found;
  version.value++;
}
const shownMend = (): string => `${props.mend?.id} ${props.mend?.method}`;
watch(shownMend, () => {
  asked++;
  candidates.value = [];
});
watchDebounced(shownMend, find, { debounce: AFTER_PIXELS_MS, immediate: true });

/** What the mend would look like with a source of that number. */
function paintCandidate(number: number, where: Rect): Promise<ImageBitmap> {
  const shown = props.mend;
  const candidate = candidates.value[number - 1];
  if (!shown || !isSourced(shown) || !candidate) return engine().crop(where, 'before');
  const { dx, dy } = candidate;
  return byHand((hand) => hand.preview({ mends: [{ ...shown, source: { dx, dy } }] }, where));
}

/** An edge fit moves a source by so many pixels at most; it is still the candidate it was. */
const FITTED_AWAY = 8;
const taken = computed((): number | null => {
  const source = props.mend && sourceOf(props.mend);
  if (!source) return null;
  const away = ({ dx, dy }: SourceCandidate): number => Math.hypot(dx - source.dx, dy - source.dy);
  const nearest = [...candidates.value].sort((a, b) => away(a) - away(b)).at(0);
  return nearest && away(nearest) <= FITTED_AWAY ? candidates.value.indexOf(nearest) + 1 : null;
});

/** Takes a candidate by its number, 1 to 6. */
function take(number: number): void {
  const candidate = candidates.value[number - 1];
  if (candidate && props.mend) useSource(props.mend, candidate);
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
  </div>
</template>

<style scoped>
.sources {
  display: grid;
  flex: none;
  grid-template-columns: repeat(3, auto);
  gap: 2px 4px;
  padding-left: 8px;
  border-left: 1px solid var(--line);
}
</style>
