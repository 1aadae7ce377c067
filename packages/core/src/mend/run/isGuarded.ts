import { allowanceOn } from '../../fence/allowance.ts';
import type { Fence } from '../../fence/fence.ts';

/**
 * True if the middle of a fault lies in a guard, where no mend may change a value: such a fault stays open.
 *
 * @param x in pixels of the upright original, as `y` is
 */
export function isGuarded(
  { x, y }: { readonly x: number; readonly y: number },
  fences: readonly Fence[],
  picture: { readonly width: number; readonly height: number },
): boolean {
  const pixel = { left: Math.floor(x), top: Math.floor(y), width: 1, height: 1 };
  return allowanceOn(fences, undefined, pixel, picture)?.[0] === 0;
}
