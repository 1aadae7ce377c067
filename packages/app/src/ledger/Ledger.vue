<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual';
import { computed, ref, watch } from 'vue';
import type { LedgerEntry } from '../stores/ledgerEntry.ts';
import { usePicture } from '../stores/picture.ts';
import { DOUBTFUL, useQuality } from '../stores/quality.ts';
import { useRound } from '../stores/round.ts';
import { useView } from '../stores/view.ts';
import { useMending } from '../work/useMending.ts';
import { percent } from '../words/count.ts';
import FindingsChart from './FindingsChart.vue';
import LedgerLine from './LedgerLine.vue';

const ROW_HEIGHT = 26;
const SORTS = ['number', 'size', 'strength', 'confidence', 'quality'] as const;
type Sort = (typeof SORTS)[number];
const FILTERS = ['all', 'open', 'mended', 'doubtful', 'switched off', 'dismissed'] as const;
type Filter = (typeof FILTERS)[number];

const picture = usePicture();
const view = useView();
const round = useRound();
const quality = useQuality();
const { mendEntries, dismiss, takeBack, stop, switchAll, lockAll, removeAll } = useMending();
const sort = ref<Sort>('number');
const filter = ref<Filter>('all');
/** Only what is at least so large, strong and sure is listed. */
const least = ref({ size: 0, strength: 0, confidence: 0 });
const isNarrowed = computed(() => Object.values(least.value).some((value) => value > 0));
const list = ref<HTMLElement | null>(null);

const qualityOfEntry = ({ mend }: LedgerEntry): number | null =>
  mend ? (quality.quality.get(mend.id) ?? null) : null;

function isInFilter(entry: LedgerEntry): boolean {
  switch (filter.value) {
    case 'all':
      return true;
    case 'open':
      return entry.state === 'open' && entry.mend === null;
    case 'mended':
      return entry.state === 'mended' || entry.state === 'lessened';
    case 'doubtful':
      return (qualityOfEntry(entry) ?? 1) < DOUBTFUL;
    case 'switched off':
      return entry.mend?.on === false;
    case 'dismissed':
      return entry.state === 'dismissed' || entry.state === 'set aside';
  }
}
const isShown = (entry: LedgerEntry): boolean =>
  isInFilter(entry) &&
  entry.r >= least.value.size &&
  (entry.strength ?? 1) * 100 >= least.value.strength &&
  (entry.confidence ?? 1) >= least.value.confidence;

const ORDER: Record<Sort, (a: LedgerEntry, b: LedgerEntry) => number> = {
  number: (a, b) => a.number - b.number,
  size: (a, b) => b.r - a.r,
  strength: (a, b) => (b.strength ?? 0) - (a.strength ?? 0),
  confidence: (a, b) => (b.confidence ?? 0) - (a.confidence ?? 0),
  quality: (a, b) => (qualityOfEntry(a) ?? 2) - (qualityOfEntry(b) ?? 2),
};
watch([sort, filter], () => {
  if (sort.value === 'quality' || filter.value === 'doubtful') void quality.measure();
});
const groups = computed(() =>
  [
    { title: 'Dark specks', polarity: 'dark' as const },
    { title: 'Bright specks', polarity: 'bright' as const },
    { title: 'Marked by hand', polarity: null },
  ]
    .map(({ title, polarity }) => {
      const all = picture.entries.filter((entry) => entry.polarity === polarity);
      const settled = all.filter(({ state }) => state !== 'open').length;
      const rows = all.filter(isShown).sort(ORDER[sort.value]);
      return { title, count: all.length, share: all.length > 0 ? settled / all.length : 0, rows };
    })
    .filter((group) => group.count > 0),
);

type Line =
  | { readonly type: 'group'; readonly title: string; readonly count: number; readonly share: number }
  | { readonly type: 'entry'; readonly entry: LedgerEntry };
const lines = computed((): Line[] =>
  groups.value.flatMap(({ title, count: total, share, rows }): Line[] => [
    { type: 'group', title, count: total, share },
    ...rows.map((entry): Line => ({ type: 'entry', entry })),
  ]),
);
const shownEntries = computed(() =>
  lines.value.flatMap((line) => (line.type === 'entry' ? [line.entry] : [])),
);

const virtual = useVirtualizer(
  computed(() => ({
    count: lines.value.length,
    getScrollElement: () => list.value,
    estimateSize: () => ROW_HEIGHT,
    overscan: 12,
  })),
);

/** The lines in sight, with where each of them stands. */
const visible = computed(() =>
  virtual.value.getVirtualItems().flatMap(({ key, index, start }) => {
    const line = lines.value[index];
    return line ? [{ key: Number(key), start, line }] : [];
  }),
);

const chosen = computed(() => view.chosenEntries);
const chosenOpen = computed(() => chosen.value.filter(({ state }) => state === 'open'));
const chosenMends = computed(() => chosen.value.flatMap(({ mend }) => (mend ? [mend] : [])));
const chosenSettled = computed(() => chosen.value.filter(({ state }) => state !== 'open'));
const openCount = computed(() => picture.entries.filter(({ state }) => state === 'open').length);

function press(entry: LedgerEntry, event: MouseEvent): void {
  if (event.ctrlKey || event.metaKey) view.toggle(entry.id);
  else if (event.shiftKey && view.focus !== null) {
    const ids = shownEntries.value.map(({ id }) => id);
    const [from, to] = [ids.indexOf(view.focus), ids.indexOf(entry.id)].sort((a, b) => a - b);
    const focus = view.focus;
    view.choose(from < 0 ? [entry.id] : ids.slice(from, to + 1));
    view.focus = focus;
  } else {
    view.choose([entry.id]);
    view.goTo(entry);
  }
}

/** A round goes through what is chosen, or through all that is listed where less than two are. */
const roundIds = computed(() => {
  const listed = shownEntries.value.map(({ id }) => id);
  return chosen.value.length > 1 ? listed.filter((id) => view.chosen.has(id)) : listed;
});

/** What else can be done with the mends that are chosen. */
function act(command: string): void {
  const mends = chosenMends.value;
  if (command === 'on' || command === 'off') switchAll(mends, command === 'on');
  else if (command === 'lock' || command === 'unlock') lockAll(mends, command === 'lock');
  else if (command === 'remove') removeAll(mends);
  else if (command === 'all on' || command === 'all off') switchAll(picture.mends, command === 'all on');
  else if (command === 'remove all') removeAll(picture.mends);
}

/** Goes to the next or previous line of the ledger. */
function step(by: 1 | -1): void {
  const entries = shownEntries.value;
  if (entries.length === 0) return;
  const at = entries.findIndex(({ id }) => id === view.focus);
  const next =
    entries[at < 0 ? (by > 0 ? 0 : entries.length - 1) : Math.min(entries.length - 1, Math.max(0, at + by))];
  view.choose([next.id]);
  view.goTo(next);
}

watch(
  () => view.focus,
  (id) => {
    const at = lines.value.findIndex((line) => line.type === 'entry' && line.entry.id === id);
    if (at >= 0) virtual.value.scrollToIndex(at, { align: 'auto' });
  },
);

defineExpose({ step });
</script>

<template>
  <section class="ledger" aria-label="Ledger">
    <header>
      <h2>Ledger</h2>
      <span class="soft">{{ openCount }} open of {{ picture.entries.length }}</span>
    </header>
    <FindingsChart v-if="picture.entries.length > 0" />
    <div v-if="picture.entries.length > 0" class="choices">
      <el-select v-model="filter" size="small" aria-label="Which lines are listed">
        <el-option v-for="choice in FILTERS" :key="choice" :value="choice" :label="choice" />
      </el-select>
      <el-select v-model="sort" size="small" aria-label="In which order">
        <el-option v-for="key in SORTS" :key="key" :value="key" :label="`by ${key}`" />
      </el-select>
      <el-popover trigger="click" :width="220" placement="bottom-end">
        <template #reference>
          <el-button size="small" :type="isNarrowed ? 'primary' : 'default'">Narrow</el-button>
        </template>
        <div class="narrow">
          <span>Listed from</span>
          <label
            >size
            <el-slider
              v-model="least.size"
              :max="60"
              :step="0.5"
              size="small"
              aria-label="Least radius in pixels"
          /></label>
          <label
            >strength
            <el-slider
              v-model="least.strength"
              :max="100"
              size="small"
              aria-label="Least strength in per cent"
          /></label>
          <label
            >confidence
            <el-slider
              v-model="least.confidence"
              :max="1"
              :step="0.01"
              size="small"
              aria-label="Least confidence"
          /></label>
        </div>
      </el-popover>
      <el-button size="small" @click="view.choose(shownEntries.map(({ id }) => id))">Choose all</el-button>
      <el-button
        size="small"
        :disabled="roundIds.length === 0"
        data-testid="round"
        @click="round.start(roundIds)"
        >Round of {{ roundIds.length }}</el-button
      >
      <el-button v-if="round.canResume" size="small" @click="round.resume()">Resume</el-button>
      <span v-if="quality.share !== null" class="soft">measuring {{ percent(quality.share) }}</span>
    </div>
    <div v-if="picture.entries.length > 0" ref="list" class="list" tabindex="0" aria-label="Faults">
      <div :style="{ height: `${virtual.getTotalSize()}px`, position: 'relative' }">
        <template v-for="{ key, start, line } in visible" :key="key">
          <div
            v-if="line.type === 'group'"
            class="line group"
            :style="{ transform: `translateY(${start}px)` }"
          >
            <span>{{ line.title }}</span>
            <span class="figures">{{ line.count }}</span>
            <span class="share" :title="`${percent(line.share)} settled`"
              ><i :style="{ width: `${line.share * 100}%` }"
            /></span>
          </div>
          <LedgerLine
            v-else
            class="line"
            :style="{ transform: `translateY(${start}px)` }"
            :entry="line.entry"
            :is-chosen="view.chosen.has(line.entry.id)"
            @click="press(line.entry, $event)"
            @mouseenter="view.hovered = line.entry.id"
            @mouseleave="view.hovered = null"
          />
        </template>
      </div>
    </div>
    <div v-else class="empty">
      <p v-if="picture.picture?.examined === 'running' || picture.picture?.examined === 'waiting'">
        The picture is being examined.
      </p>
      <p v-else-if="picture.picture?.examined === 'done'">Nothing was found at this sensitivity.</p>
      <p v-else-if="picture.picture?.examined === 'failed'">
        The examination broke off. Examine the picture again.
      </p>
      <p v-else>Not examined yet. Go to Examine, or mark faults by hand with a method from the bar.</p>
    </div>
    <footer v-if="picture.entries.length > 0">
      <template v-if="view.mending !== null">
        <el-progress :percentage="Math.round(view.mending * 100)" :stroke-width="8" class="progress" />
        <el-button size="small" @click="stop">Stop</el-button>
      </template>
      <template v-else>
        <el-button
          size="small"
          type="primary"
          :disabled="chosenOpen.length === 0"
          data-testid="mend-chosen"
          @click="mendEntries(chosenOpen)"
          >Mend {{ chosenOpen.length > 0 ? chosenOpen.length : 'chosen' }}</el-button
        >
        <el-button size="small" :disabled="chosenOpen.length === 0" @click="dismiss(chosenOpen)"
          >Dismiss</el-button
        >
        <el-button size="small" :disabled="chosenSettled.length === 0" @click="takeBack(chosenSettled)"
          >Take back</el-button
        >
        <el-dropdown trigger="click" @command="act">
          <el-button size="small" aria-label="More that can be done">More</el-button>
          <template #dropdown>
            <el-dropdown-menu>
              <el-dropdown-item command="on" :disabled="chosenMends.length === 0">Switch on</el-dropdown-item>
              <el-dropdown-item command="off" :disabled="chosenMends.length === 0"
                >Switch off</el-dropdown-item
              >
              <el-dropdown-item command="lock" :disabled="chosenMends.length === 0">Lock</el-dropdown-item>
              <el-dropdown-item command="unlock" :disabled="chosenMends.length === 0"
                >Unlock</el-dropdown-item
              >
              <el-dropdown-item command="remove" :disabled="chosenMends.length === 0"
                >Take away</el-dropdown-item
              >
              <el-dropdown-item command="all on" divided>Switch all mends on</el-dropdown-item>
              <el-dropdown-item command="all off">Switch all mends off</el-dropdown-item>
              <el-dropdown-item command="remove all">Take all mends away</el-dropdown-item>
            </el-dropdown-menu>
          </template>
        </el-dropdown>
      </template>
    </footer>
  </section>
</template>

<style scoped>
.ledger {
  display: flex;
  flex-direction: column;
  min-height: 0;
  border-right: 1px solid var(--line);
  background: var(--panel);
}
header {
  display: flex;
  align-items: baseline;
  justify-content: space-between;
  padding: 8px 12px 2px;
}
.choices {
  display: grid;
  grid-template-columns: 1fr 1fr auto;
  gap: 6px;
  padding: 6px 10px;
}
.choices .el-button + .el-button {
  margin-left: 0;
}
.narrow {
  display: grid;
  gap: 4px;
}
.narrow label {
  display: grid;
  grid-template-columns: 80px 1fr;
  align-items: center;
}
.list {
  flex: 1;
  min-height: 0;
  overflow: auto;
  border-top: 1px solid var(--line);
  background: var(--raised);
}
.line {
  position: absolute;
  top: 0;
  left: 0;
  display: grid;
  align-items: center;
  width: 100%;
  height: 26px;
  padding: 0 10px;
}
.group {
  grid-template-columns: 1fr auto 72px;
  gap: 10px;
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
.empty {
  flex: 1;
  padding: 18px 14px;
  color: var(--text-soft);
}
footer {
  display: flex;
  align-items: center;
  gap: 6px;
  min-height: 44px;
  padding: 6px 10px;
  border-top: 1px solid var(--line);
}
footer .el-button {
  padding: 0 8px;
}
footer .el-button + .el-button {
  margin-left: 0;
}
.progress {
  flex: 1;
}
</style>
