<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual';
import { useTimeoutFn } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import { useLedger } from '../stores/ledger.ts';
import type { LedgerEntry } from '@fennip/core/ledger';
import { usePicture } from '../stores/picture.ts';
import { useView } from '../stores/view.ts';
import { AFTER_PIXELS_MS } from '../timing/afterPixels.ts';
import { afterFrame } from '../timing/afterFrame.ts';
import { percent } from '../i18n/figures.ts';
import type { WordKey } from '../i18n/say.ts';
import { say } from '../i18n/say.ts';
import LedgerLine from './LedgerLine.vue';

/** The lines that are listed, of which only those in sight are drawn: thousands are usual. */
const ROW_HEIGHT = 26;

const picture = usePicture();
const ledger = useLedger();
const view = useView();
const list = ref<HTMLElement | null>(null);

type Line =
  | { readonly type: 'group'; readonly title: WordKey; readonly count: number; readonly share: number }
  | { readonly type: 'entry'; readonly entry: LedgerEntry };
const lines = computed((): Line[] =>
  ledger.groups.flatMap(({ title, count, share, rows }): Line[] => [
    { type: 'group', title, count, share },
    ...rows.map((entry): Line => ({ type: 'entry', entry })),
  ]),
);

const virtual = useVirtualizer(
  computed(() => ({
    count: lines.value.length,
    getScrollElement: () => list.value,
    estimateSize: () => ROW_HEIGHT,
    overscan: 4,
  })),
);
/** The lines in sight, with where each of them stands. */
const visible = computed(() =>
  virtual.value.getVirtualItems().flatMap(({ key, index, start }) => {
    const line = lines.value[index];
    return line ? [{ key: Number(key), start, line }] : [];
  }),
);

/** The entry whose line an event came from. Heard once for all lines, so that a line is drawn anew only for its own sake. */
function entryOf(event: Event): LedgerEntry | null {
  const line = event.target instanceof Element ? event.target.closest<HTMLElement>('[data-entry]') : null;
  return picture.entryById.get(line?.dataset['entry'] ?? '') ?? null;
}

function press(event: MouseEvent): void {
  const entry = entryOf(event);
  if (!entry) return;
  if (event.ctrlKey || event.metaKey) view.toggle(entry.id);
  else if (event.shiftKey && view.focus !== null) ledger.chooseUpTo(entry);
  else {
    view.choose([entry.id]);
    view.goTo(entry);
  }
}

function hover(event: MouseEvent): void {
  view.hovered = entryOf(event)?.id ?? null;
}

/**
 * How far the list must scroll, and no farther, for a line to be in sight. Where it is comes from what is known: to ask
 * the page would lay it out once more.
 */
function wayTo(index: number): number {
  const { scrollOffset, scrollRect } = virtual.value;
  if (scrollOffset === null || scrollRect === null) return 0;
  const top = index * ROW_HEIGHT;
  const least = top + ROW_HEIGHT - scrollRect.height;
  return Math.min(0, top - scrollOffset) + Math.max(0, least - scrollOffset);
}

function bringIntoSight(): void {
  // What is chosen may have gone from the list meanwhile.
  const way = focused.value < 0 ? 0 : wayTo(focused.value);
  if (list.value && way !== 0) list.value.scrollTop = (virtual.value.scrollOffset ?? 0) + way;
}

/** Where the line in focus stands; -1 where it is not listed. */
const focused = computed(() =>
  lines.value.findIndex((line) => line.type === 'entry' && line.entry.id === view.focus),
);
const isFar = (way: number): boolean => Math.abs(way) > (virtual.value.scrollRect?.height ?? 0);
const follow = useTimeoutFn(bringIntoSight, AFTER_PIXELS_MS, { immediate: false });
watch(
  () => view.focus,
  () => {
    follow.stop();
    afterFrame('ledger', () => {
      if (focused.value < 0) return;
      // Far away all lines are others: the table's pixels come first.
      if (isFar(wayTo(focused.value))) follow.start();
      else bringIntoSight();
    });
  },
);
</script>

<template>
  <div
    ref="list"
    class="list"
    tabindex="0"
    :aria-label="say('ledger.faults')"
    @click="press"
    @mouseover="hover"
    @mouseleave="view.hovered = null"
  >
    <div :style="{ height: `${virtual.getTotalSize()}px`, position: 'relative' }">
      <div
        v-for="{ key, start, line } in visible"
        :key="key"
        class="line"
        :style="{ transform: `translateY(${start}px)` }"
      >
        <div v-if="line.type === 'group'" class="group">
          <span>{{ say(line.title) }}</span>
          <span class="figures">{{ line.count }}</span>
          <span class="share" :title="say('ledger.settled', { share: percent(line.share) })"
            ><i :style="{ width: `${line.share * 100}%` }"
          /></span>
        </div>
        <LedgerLine v-else :entry="line.entry" />
      </div>
    </div>
  </div>
</template>

<style scoped>
.list {
  flex: 1;
  min-height: 0;
  overflow: auto;
  border-top: 1px solid var(--line);
  background: var(--raised);
  contain: strict;
}
.line {
  position: absolute;
  contain: strict;
  top: 0;
  left: 0;
  width: 100%;
  height: 26px;
}
.group {
  display: grid;
  grid-template-columns: 1fr auto 72px;
  align-items: center;
  gap: 10px;
  height: 100%;
  padding: 0 10px;
  background: var(--ground);
  font-weight: 600;
}
.share {
  height: 6px;
  background: var(--line);
}
.share i {
  display: block;
  height: 100%;
  background: var(--mended);
}
</style>
