<script setup lang="ts">
import type { Mend, Verdict } from '@fennip/core/mend';
import type { Rect } from '@fennip/core/raster';
import { isTreatment, sourceOf } from '@fennip/core/mend';
import { growRect, intersectRects } from '@fennip/core/raster';
import { useThrottleFn, useTimeoutFn, watchDebounced } from '@vueuse/core';
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue';
import { DIFFERENCE_GAIN } from '../engine/paint/differenceGain.ts';
import { laterInMendWorker, engine } from '../engine/page/workers.ts';
import { reachOf } from '@fennip/core/ledger';
import { usePicture } from '../stores/picture.ts';
import { useView } from '../stores/view.ts';
import { afterFrame } from '../timing/afterFrame.ts';
import { useMendChanges } from '../actions/useMendChanges.ts';
import { percent } from '../i18n/figures.ts';
import { kindWord } from '../i18n/kindWord.ts';
import { say } from '../i18n/say.ts';
import { AFTER_PIXELS_MS } from '../timing/afterPixels.ts';
import KindChoice from './KindChoice.vue';
import MendControls from './MendControls.vue';
import ProofCell from './ProofCell.vue';
import SourceCells from './SourceCells.vue';

/** Cells show at least this many pixels of the picture across. */
const LEAST_SIDE = 44;
/** And so many times what the fault itself takes up. */
const REACHES = 2.6;
/** Around what is large no more than so many pixels are shown. */
const MOST_AROUND = 240;

const picture = usePicture();
const view = useView();
const { fitSource } = useMendChanges();
/** The entry that is shown. When it is mended or its mend taken away, the table's pixels come first. */
const entry = shallowRef(view.focusEntry);
const follow = useTimeoutFn(() => (entry.value = view.focusEntry), AFTER_PIXELS_MS, { immediate: false });
watch(
  () => view.focusEntry,
  (next) => {
    const isSame = next?.id === entry.value?.id;
    if (isSame && (next?.mend === null) !== (entry.value?.mend === null)) return follow.start();
    follow.stop();
    if (isSame) entry.value = next;
    // The table and the ledger show what is chosen first; the proof does a little later.
    else afterFrame('proof', () => (entry.value = view.focusEntry));
  },
);
const sources = ref<InstanceType<typeof SourceCells> | null>(null);
const version = shallowRef(0);

/** The square of the picture that the cells show. */
const rect = computed((): Rect | null => {
  const sheet = picture.picture;
  if (!entry.value || !sheet || sheet.state !== 'ready') return null;
  const { x, y } = entry.value;
  const reach = reachOf(entry.value);
  const half = Math.max(LEAST_SIDE / 2, Math.ceil(Math.min(reach * REACHES, reach + MOST_AROUND)));
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
/** A rebuild is not worked out a second time only to be judged. */
const verdictOn = (shown: Mend): Promise<Verdict | null> =>
  shown.method === 'rebuild' ? engine().verdict(shown) : laterInMendWorker((hand) => hand.judge(shown));
const ownMend = (): Mend | null => entry.value?.mend ?? null;
watch(ownMend, () => {
  judged++;
  verdict.value = null;
});
watchDebounced(
  ownMend,
  async (shown) => {
    const turn = ++judged;
    const found = shown ? await verdictOn(shown) : null;
    if (turn === judged) verdict.value = found;
  },
  { debounce: AFTER_PIXELS_MS, immediate: true },
);

/** The cells are painted by the worker that paints the table; they wait until that has its pixels. */
const paintCells = useThrottleFn(() => version.value++, AFTER_PIXELS_MS, true, false);
const stop = picture.onRepaint({
  changed: (changed) => {
    if (rect.value && intersectRects(growRect(changed, 1), rect.value).width > 0) void paintCells();
  },
});
onBeforeUnmount(stop);

const before = (where: Rect) => engine().crop(where, 'before');
const after = (where: Rect) => engine().crop(where, 'after');
const change = (where: Rect) => engine().cropDifference(where);
const facts = computed(() => {
  const shown = entry.value;
  if (!shown) return [];
  return [
    [say('proof.place'), `${Math.round(shown.x)}, ${Math.round(shown.y)}`],
    ...(shown.mend && isTreatment(shown.mend)
      ? []
      : [[say('proof.radius'), say('figure.pixels', { n: shown.r.toFixed(1) })]]),
    ...(shown.strength === null ? [] : [[say('proof.strength'), percent(shown.strength)]]),
    ...(shown.confidence === null ? [] : [[say('proof.confidence'), shown.confidence.toFixed(2)]]),
    [say('proof.state'), say(`state.${shown.state}`)],
  ];
});

/** Fits the source of the mend that is shown edge to edge. */
async function fit(): Promise<void> {
  if (!mend.value || !sourceOf(mend.value)) return;
  const residual = await fitSource(mend.value);
  picture.notice =
    residual === null ? say('notice.noEdge') : say('notice.fitted', { n: residual.toFixed(2) });
}

defineExpose({ take: (number: number) => sources.value?.take(number), fit });
</script>

<template>
  <!-- All of it stays mounted: what changes with every mend must not be built anew with every mend. -->
  <section class="proof" :aria-label="say('proof')">
    <div v-show="rect" class="facts">
      <h2 v-show="entry" class="title">
        <span class="figures">{{ entry?.number }}</span>
        <span v-if="entry?.polarity === null">{{ kindWord(entry) }}</span>
        <KindChoice v-show="entry?.polarity !== null" :entry="entry" />
      </h2>
      <dl>
        <template v-for="[name, value] in facts" :key="name">
          <dt>{{ name }}</dt>
          <dd class="figures">{{ value }}</dd>
        </template>
      </dl>
    </div>
    <ProofCell v-show="rect" :title="say('proof.before')" :rect="rect" :version="version" :paint="before" />
    <ProofCell v-show="rect" :title="say('proof.after')" :rect="rect" :version="version" :paint="after" />
    <ProofCell
      v-show="rect"
      :title="say('proof.change', { n: DIFFERENCE_GAIN })"
      :rect="rect"
      :version="version"
      :paint="change"
    />
    <MendControls v-show="mend" :mend="mend" :verdict="verdict" :rect="rect" :version="version" @fit="fit" />
    <SourceCells ref="sources" :mend="mend" :rect="rect" />
    <p v-if="!rect" class="soft hint">
      {{ say('proof.nothing') }}
    </p>
    <p v-else-if="!mend" class="soft hint">{{ say('proof.open') }}</p>
  </section>
</template>

<style scoped>
.proof {
  display: flex;
  align-items: stretch;
  gap: 8px;
  height: 152px;
  padding: 6px 10px;
  overflow-x: auto;
  overflow-y: hidden;
  border-top: 1px solid var(--line);
  background: var(--panel);
}
.facts {
  flex: none;
  width: 146px;
}
.title {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 24px;
  margin: 0;
}
.title .el-select {
  flex: 1;
  min-width: 0;
}
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 1px 6px;
  margin: 2px 0 0;
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
.hint {
  align-self: center;
  padding: 0 8px;
}
</style>
