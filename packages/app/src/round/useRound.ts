import type { MethodName } from '@fennip/core/mend';
import { useLocalStorage } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed } from 'vue';
import { useLedgerWork } from '../actions/useLedgerWork.ts';
import { useMendRuns } from '../actions/useMendRuns.ts';
import { useMendChanges } from '../actions/useMendChanges.ts';
import type { LedgerEntry } from '@fennip/core/ledger';
import { usePicture } from '../stores/picture.ts';
import { useView } from '../stores/view.ts';

/** A round as it is kept: what it goes through, where it stands, and what was decided. */
interface KeptRound {
  readonly ids: readonly string[];
  readonly at: number;
  readonly decided: readonly string[];
}

/** Rounds are kept for so many pictures; the oldest is forgotten first. */
const MOST_KEPT = 40;

/** Going through a chosen set one after the other by key. It can be left at any time and resumed. */
export const useRound = defineStore('round', () => {
  const picture = usePicture();
  const view = useView();
  const { mendEntries } = useMendRuns();
  const { changeMethod, removeAll } = useMendChanges();
  const { dismiss } = useLedgerWork();
  const kept = useLocalStorage<Record<string, KeptRound>>('fennip rounds', {});
  const onPicture = useLocalStorage<string | null>('fennip round on', null);

  const pictureId = computed(() => picture.picture?.id ?? '');
  const round = computed((): KeptRound | null => kept.value[pictureId.value] ?? null);
  const isOn = computed(() => round.value !== null && onPicture.value === pictureId.value);
  const decided = computed(() => new Set(round.value?.decided));
  /** What is still there of it and not decided. */
  const left = computed(
    () => round.value?.ids.filter((id) => !decided.value.has(id) && picture.entryById.has(id)).length ?? 0,
  );
  const size = computed(() => round.value?.ids.filter((id) => picture.entryById.has(id)).length ?? 0);
  const entries = computed(() => round.value?.ids.flatMap((id) => picture.entryById.get(id) ?? []) ?? []);
  const canResume = computed(() => round.value !== null && !isOn.value && left.value > 0);
  const current = computed((): LedgerEntry | null => {
    const id = round.value?.ids[round.value.at];
    return id === undefined ? null : (picture.entryById.get(id) ?? null);
  });

  function keep(next: KeptRound): void {
    const others = Object.entries(kept.value).filter(([id]) => id !== pictureId.value);
    kept.value = Object.fromEntries([...others.slice(-MOST_KEPT), [pictureId.value, next]]);
  }

  function goTo(at: number): void {
    if (!round.value) return;
    keep({ ...round.value, at });
    if (!current.value) return;
    view.choose([current.value.id]);
    view.goTo(current.value);
  }

  /** Starts a round through these, in this order. */
  function start(ids: readonly string[]): void {
    if (ids.length === 0) return;
    keep({ ids, at: 0, decided: [] });
    onPicture.value = pictureId.value;
    goTo(0);
  }

  function resume(): void {
    onPicture.value = pictureId.value;
    goTo(round.value?.at ?? 0);
  }

  function leave(): void {
    onPicture.value = null;
  }

  /** The next place from here, in a direction, that is wanted; none where there is none. */
  function nextFrom(at: number, by: 1 | -1, isWanted: (id: string) => boolean): number | null {
    const ids = round.value?.ids ?? [];
    for (let k = at + by; k >= 0 && k < ids.length; k += by)
      if (picture.entryById.has(ids[k]) && isWanted(ids[k])) return k;
    return null;
  }

  /** Looks at the next or previous one, decided or not. */
  function step(by: 1 | -1): void {
    const next = round.value && nextFrom(round.value.at, by, () => true);
    if (next !== null) goTo(next);
  }

  /** The current one is decided: on to the next that is not, from the beginning again where none follows. */
  function decide(): void {
    const now = round.value;
    const id = now?.ids[now.at];
    if (!now || id === undefined) return;
    keep({ ...now, decided: [...new Set([...now.decided, id])] });
    const isOpen = (other: string): boolean => !decided.value.has(other);
    const next = nextFrom(now.at, 1, isOpen) ?? nextFrom(-1, 1, isOpen);
    if (next === null) leave();
    else goTo(next);
  }

  /** Mends what is open, keeps what is mended, and goes on. */
  function accept(): void {
    const entry = current.value;
    decide();
    if (entry?.state === 'open') void mendEntries([entry]);
  }

  /** Dismisses what is open, takes away what is mended, and goes on. */
  function dismissCurrent(): void {
    const entry = current.value;
    decide();
    if (!entry) return;
    if (entry.mend) removeAll([entry.mend]);
    else dismiss([entry]);
  }

  /** Mends the current one by a method, or makes its mend anew by it; stays, so that it can be judged. */
  function makeBy(method: MethodName): Promise<void> {
    const entry = current.value;
    if (!entry) return Promise.resolve();
    return entry.mend ? changeMethod(entry.mend, method) : mendEntries([entry], method);
  }

  return {
    isOn,
    entries,
    left,
    size,
    current,
    canResume,
    start,
    resume,
    leave,
    step,
    accept,
    dismissCurrent,
    makeBy,
  };
});
