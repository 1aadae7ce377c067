import type { MethodChoice, MendWish } from '../mendWish.ts';
import { THIN } from '../mendWish.ts';
import type { Filled } from './fillLost.ts';
import type { VeilFinding } from './findVeil.ts';
import type { Reason } from './reason.ts';

/** A veil must explain the picture at least so much better than none, in log likelihood. */
const LEAST_EVIDENCE = 0;
/** Below this departure from its surroundings, in spreads of these, a spot is no more than its ground's own texture. */
const LEAST_DEPARTURE = 1;
/**
 * Undoing must not leave a place so many times rougher than its surroundings. Measured: true shadows stay below in 97
 * of 100, two thirds of ragged hard specks lie above.
 */
const MOST_LEFTOVER = 1.8;
/** Shadows of dust on a sensor are shallower than this; what is deeper may be a grain that lets nothing through. */
const DEEP = 0.5;
/** A shadow through an aperture has a penumbra. One cut sharper than this, in pixels and radii, lies in focus. */
const SHARP = 0.5;
const SHARP_SHARE = 0.12;
/** Undone texture fainter than this share of the surroundings' was never there. */
const LEAST_CORE = 0.3;
/** A fault less recoverable than this is healed as a whole: rims alone are not worth their seam. */
const LEAST_RECOVERABLE = 0.3;

/** A deep shadow that is cut sharp, or flat where the ground has texture: nothing of the picture shows through. */
function isOpaque({ veil, leftover }: VeilFinding): boolean {
  if (veil.light !== null || veil.depth < DEEP) return false;
  const isSharp = veil.softness * veil.r < SHARP && veil.softness < SHARP_SHARE;
  return isSharp || leftover.core < LEAST_CORE;
}

/** Which method auto takes for a target, and why; that of the restorer where one is asked for. */
export function reasonFor({ target }: MendWish, choice: MethodChoice, veil: VeilFinding | null): Reason {
  const measured = {
    recoverability: veil?.recoverability ?? null,
    evidence: veil?.evidence ?? null,
  };
  if (choice === 'recover' && !veil) return { method: 'heal', because: 'no disc', ...measured };
  if (choice !== 'auto') return { method: choice, because: 'asked for', ...measured };
  if (target.shape === 'stroke' && target.width <= THIN)
    return { method: 'bridge', because: 'thin line', ...measured };
  if (!veil) return { method: 'heal', because: 'no disc', ...measured };
  if (veil.evidence < LEAST_EVIDENCE && veil.departure > LEAST_DEPARTURE)
    return { method: 'heal', because: 'no veil', ...measured };
  if (veil.leftover.roughness > MOST_LEFTOVER)
    return { method: 'heal', because: 'would leave a rim', ...measured };
  if (veil.recoverability < LEAST_RECOVERABLE || isOpaque(veil))
    return { method: 'heal', because: 'too little light', ...measured };
  return { method: 'recover', because: 'light comes through', ...measured };
}

/** The reason once it was tried what fills a target: with the method that was taken in the end. */
export const reasonAfter = (
  reason: Reason,
  { mend: { method }, because = 'no source fits' }: Filled,
): Reason => (method === reason.method ? reason : { ...reason, method, because });
