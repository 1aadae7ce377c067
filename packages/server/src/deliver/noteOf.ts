import type { Account } from '@fennip/core/ledger';
import type { SpokenWords } from '@fennip/words';

/** What was restored, in one line for the history of a file. */
export function noteOf(account: Account, { say }: SpokenWords): string {
  const { mended, lessened, takenAway, left, methods } = account;
  const restored = say('note.restored', { mended, lessened, takenAway, left });
  const done = methods.map(({ method, count }) =>
    say('report.methodCount', { n: count, done: say(`report.method.${method}`) }),
  );
  return done.length === 0 ? restored : say('note.methods', { restored, methods: done.join(', ') });
}
