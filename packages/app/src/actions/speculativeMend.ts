import { newId } from '@fennip/contract';
import type { Fence } from '@fennip/core/fence';
import type { LedgerEntry } from '@fennip/core/ledger';
import type { MendProposal } from '@fennip/core/mend';
import { faultToMend, isUntouched } from '@fennip/core/ledger';
import { proxy } from 'comlink';
import { defineStore } from 'pinia';
import { watch } from 'vue';
import { inMendWorker } from '../engine/page/workers.ts';
import { usePicture } from '../stores/picture.ts';
import { useView } from '../stores/view.ts';
import { surroundingsNow } from './mendingFaults.ts';

/** A fault must stay chosen so long before its mend is made, in milliseconds: who leafs through is not waited for. */
const SETTLED_MS = 60;

type Made = Pick<MendProposal, 'mend'>;

/** A mend made ahead, and the ledger and fences it was made for: what it must keep clear of. */
interface Foreseen {
  readonly entry: LedgerEntry;
  readonly ledger: readonly LedgerEntry[];
  readonly fences: readonly Fence[];
  readonly made: Promise<readonly Made[]>;
}

const unstopped = new Int32Array(new SharedArrayBuffer(4));

/** Makes the mend of the open fault that is chosen before it is asked for, so that a press only lays it down. */
export const useSpeculativeMend = defineStore('foresight', () => {
  const picture = usePicture();
  const view = useView();
  let foreseen: Foreseen | null = null;
  let settling: ReturnType<typeof setTimeout> | undefined;

  function foresee(entry: LedgerEntry): void {
    const made = inMendWorker((hand) =>
      hand.proposeRun(
        [faultToMend(entry, newId('mend'))],
        surroundingsNow(),
        entry.origin === undefined ? 'auto' : 'heal',
        unstopped,
        proxy(() => undefined),
      ),
    );
    // What failed ahead of time fails again, and is reported, when it is asked for.
    const ahead = { entry, ledger: picture.entries, fences: picture.fences, made };
    made.catch(() => {
      if (foreseen === ahead) foreseen = null;
    });
    foreseen = ahead;
  }

  watch([() => view.focusEntry, () => picture.entries, () => picture.fences], ([entry]) => {
    clearTimeout(settling);
    foreseen = null;
    if (entry && isUntouched(entry)) settling = setTimeout(() => foresee(entry), SETTLED_MS);
  });

  /** The mend of an entry, made or in the making; none where it was not foreseen or the ledger has changed since. */
  const mendOf = (entry: LedgerEntry): Promise<readonly Made[]> | null =>
    foreseen?.entry === entry && foreseen.ledger === picture.entries && foreseen.fences === picture.fences
      ? foreseen.made
      : null;

  return { mendOf };
});
