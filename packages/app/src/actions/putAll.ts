import type { Mend } from '@fennip/core/mend';
import type { Step } from '@fennip/core/recipe';

/** Steps that put new mends behind those that there are. */
export const putAll = (before: readonly Mend[], mends: readonly Mend[]): Step[] =>
  mends.map((mend, index) => ({ op: 'put', mend, at: before.length + index }));
