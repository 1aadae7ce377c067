import type { Account } from '@fennip/core/ledger';
import { METHOD_WORDS } from '@fennip/files';

/** What was restored, in one line for the history of a file. */
export function noteOf({ mended, lessened, takenAway, left, methods }: Account): string {
  const done = methods.map(({ method, count }) => `${count} ${METHOD_WORDS[method][0]}`).join(', ');
  return [
    `Restored: ${mended} faults mended`,
    `${lessened} lessened`,
    `${takenAway} real things taken away`,
    `${left} left`,
    ...(done === '' ? [] : [`(${done})`]),
  ].join(', ');
}
