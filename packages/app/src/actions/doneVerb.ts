import type { Mend } from '@fennip/core/mend';
import type { Said } from '@fennip/words';
import { said } from '@fennip/words';

/** What was done, in one word: "healed", or "mended" where several methods did it. */
export const doneVerb = (mends: readonly Mend[]): Said =>
  said(mends.every(({ method }) => method === mends[0].method) ? `done.${mends[0].method}` : 'done.several');
