import { kindsThat } from '@fennip/core/fault';
import type { FaultKind } from '@fennip/core/fault';
import { visibilityOf } from '@fennip/core/examine';
import { toneOfFinish, tonedValue } from '@fennip/core/finish';
import { isTreatment } from '@fennip/core/mend';
import { group } from 'd3-array';
import { defineStore } from 'pinia';
import { computed, ref, watch } from 'vue';
import { wordKey } from '../i18n/say.ts';
import { useLamp } from './lamp.ts';
import type { LedgerEntry } from '@fennip/core/ledger';
import { usePicture } from './picture.ts';
import { DOUBTFUL, useQuality } from './quality.ts';
import { useView } from './view.ts';

export const SORTS = ['number', 'size', 'strength', 'confidence', 'visibility', 'quality'] as const;
export type Sort = (typeof SORTS)[number];
export const FILTERS = ['all', 'open', 'mended', 'doubtful', 'switched off', 'dismissed'] as const;
export type Filter = (typeof FILTERS)[number];

/** Kinds that have a group of their own; specks have two, by their polarity. */
type Named = Exclude<FaultKind, 'speck'>;
const NAMED = kindsThat(({ isSingle }) => isSingle).filter((kind): kind is Named => kind !== 'speck');
const isNamed = (kind: FaultKind): kind is Named => NAMED.some((named) => named === kind);

/** The groups of the ledger, in their order. */
type Group = 'dark' | 'bright' | Named | 'other' | 'left' | 'treatments' | 'hand';
const GROUPS: readonly Group[] = ['dark', 'bright', ...NAMED, 'other', 'left', 'treatments', 'hand'];

/** The group an entry belongs to. What a mended picture still shows has one of its own. */
function groupOf({ kind, origin, polarity, mend }: LedgerEntry): Group {
  if (origin !== undefined) return 'left';
  if (polarity === null) return mend !== null && isTreatment(mend) ? 'treatments' : 'hand';
  if (kind === 'speck') return polarity;
  return isNamed(kind) ? kind : 'other';
}

/** What of the picture's faults and mends is listed, in which order, and the way from one to the next. */
export const useLedger = defineStore('ledger', () => {
  const picture = usePicture();
  const view = useView();
  const quality = useQuality();
  const lamp = useLamp();
  const sort = ref<Sort>('number');
  const filter = ref<Filter>('all');
  /** Only what is at least so large (px), strong (per cent) and sure (0 to 1) is listed. */
  const least = ref({ size: 0, strength: 0, confidence: 0 });
  const isNarrowed = computed(() => Object.values(least.value).some((value) => value > 0));

  const qualityOfEntry = ({ mend }: LedgerEntry): number | null =>
    mend ? (quality.quality.get(mend.id) ?? null) : null;

  function isInFilter(entry: LedgerEntry): boolean {
    switch (filter.value) {
      case 'all':
        return true;
      case 'open':
        return entry.state === 'open' && entry.polarity !== null;
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
  const isListed = (entry: LedgerEntry): boolean =>
    isInFilter(entry) &&
    entry.r >= least.value.size &&
    (entry.strength ?? 1) * 100 >= least.value.strength &&
    (entry.confidence ?? 1) >= least.value.confidence;

  /** What becomes of a tone: under the finish, and under the tone that the lamp tries. */
  const finishedTone = computed(() => {
    const finish = toneOfFinish(picture.finish);
    const { tone } = lamp.settings;
    return (value: number): number => tonedValue(finish(value), tone);
  });

  /** How visible an entry will be in the finished picture. */
  function seen({ polarity, strength, ...entry }: LedgerEntry): number {
    const { width, height } = picture.picture ?? { width: 1, height: 1 };
    if (polarity === null || strength === null) return -1;
    return visibilityOf({ ...entry, polarity, strength }, finishedTone.value, Math.hypot(width, height));
  }

  const ORDER: Record<Sort, (a: LedgerEntry, b: LedgerEntry) => number> = {
    number: (a, b) => a.number - b.number,
    size: (a, b) => b.r - a.r,
    strength: (a, b) => (b.strength ?? 0) - (a.strength ?? 0),
    confidence: (a, b) => (b.confidence ?? 0) - (a.confidence ?? 0),
    visibility: (a, b) => seen(b) - seen(a),
    quality: (a, b) => (qualityOfEntry(a) ?? 2) - (qualityOfEntry(b) ?? 2),
  };
  watch([sort, filter], () => {
    if (sort.value === 'quality' || filter.value === 'doubtful') void quality.measure();
  });

  const groups = computed(() => {
    const all = group(picture.entries, groupOf);
    return GROUPS.flatMap((name) => {
      const own = all.get(name);
      if (!own) return [];
      const settled = own.filter(({ state }) => state !== 'open').length;
      const rows = own.filter(isListed).sort(ORDER[sort.value]);
      const title = wordKey(`ledger.group.${name}`);
      return { title, count: own.length, share: settled / own.length, rows };
    });
  });
  /** All that is listed, in order. */
  const listed = computed(() => groups.value.flatMap(({ rows }) => rows));
  /** A round goes through what is chosen, or through all that is listed where less than two are. */
  const roundIds = computed(() => {
    const ids = listed.value.map(({ id }) => id);
    return view.chosen.size > 1 ? ids.filter((id) => view.chosen.has(id)) : ids;
  });

  /** Goes to the next or previous of what is listed. */
  function step(by: 1 | -1): void {
    const entries = listed.value;
    if (entries.length === 0) return;
    const at = entries.findIndex(({ id }) => id === view.focus);
    const edge = by > 0 ? 0 : entries.length - 1;
    const next = entries[at < 0 ? edge : Math.min(entries.length - 1, Math.max(0, at + by))];
    view.choose([next.id]);
    view.goTo(next);
  }

  /** Chooses all that is listed between the one in focus and this one; the focus stays. */
  function chooseUpTo(entry: LedgerEntry): void {
    const ids = listed.value.map(({ id }) => id);
    const { focus } = view;
    const [from, to] = [focus === null ? -1 : ids.indexOf(focus), ids.indexOf(entry.id)].sort(
      (a, b) => a - b,
    );
    view.choose(from < 0 ? [entry.id] : ids.slice(from, to + 1));
    if (focus !== null && from >= 0) view.focus = focus;
  }

  return { sort, filter, least, isNarrowed, groups, listed, roundIds, step, chooseUpTo };
});
