import { bridgeDescription } from './bridge/bridgeDescription.ts';
import { cloneDescription } from './clone/cloneDescription.ts';
import { healDescription } from './heal/healDescription.ts';
import { rebuildDescription } from './rebuild/rebuildDescription.ts';
import { recoverDescription } from './recover/recoverDescription.ts';
import type { MethodDescription } from './methodDescription.ts';
import type { MethodName, SpotMend } from './spotMend.ts';

type Registry = {
  readonly [N in MethodName]: MethodDescription<Extract<SpotMend, { readonly method: N }>>;
};

/** Every method that mends a place, in the order of their keys. */
export const METHOD_DESCRIPTIONS: Registry = {
  recover: recoverDescription,
  heal: healDescription,
  clone: cloneDescription,
  bridge: bridgeDescription,
  rebuild: rebuildDescription,
};

export const METHODS = Object.keys(METHOD_DESCRIPTIONS) as readonly MethodName[];

/** The description of a mend's method. */
export const describeMethod = <M extends SpotMend>({
  method,
}: {
  readonly method: M['method'];
}): MethodDescription<M> =>
  // The registry's type says that each name leads to the description of its own mends.
  METHOD_DESCRIPTIONS[method] as unknown as MethodDescription<M>;
