import type { FaultKind } from '../../fault/kinds.ts';
import type { AreaTraits } from './areaTraits.ts';

/** Narrower than this an area is a tear: about eight times as long as it is wide. */
const TORN = 0.25;
/** Under a stain the picture's own texture goes on; what is lost down to the paper has only the paper's. */
const STAINED_TEXTURE = 0.6;
/** A stain tints or shades; it does not bleach to paper. */
const STAINED_DEPARTURE = 0.3;

/** What kind of flaw an area is, from what was measured of it. */
export function areaKind({ departure, texture, roundness }: AreaTraits): FaultKind {
  if (texture >= STAINED_TEXTURE && Math.abs(departure) < STAINED_DEPARTURE) return 'stain';
  return roundness < TORN ? 'tear' : 'loss';
}
