/**
 * A stain that dried: its density (negative logarithm of transmission) depends on how deep a place lies inside its border,
 * where it is darkest, as what was dissolved is carried to the rim (Deegan et al. 1997).
 */
export interface StainVeil {
  readonly kind: 'stain';
  /** Pixels inside the target's border, rising; density is given there, straight between, and stays beyond the last. */
  readonly depths: readonly number[];
  /** One list for each colour channel; above 0 dims, below brightens. Before the first depth it is 0. */
  readonly density: readonly (readonly number[])[];
}

/** The number of the depth after which another one lies; the first or the last interval where it lies before or beyond. */
export function intervalOf(depths: readonly number[], depth: number): number {
  let k = 1;
  while (k < depths.length - 1 && depths[k] < depth) k++;
  return k - 1;
}

/** The density of one channel at a depth. */
export function densityAt(depths: readonly number[], density: ArrayLike<number>, depth: number): number {
  if (depth <= depths[0]) return 0;
  const last = depths.length - 1;
  if (depth >= depths[last]) return density[last];
  const k = intervalOf(depths, depth);
  const share = (depth - depths[k]) / (depths[k + 1] - depths[k]);
  return density[k] + share * (density[k + 1] - density[k]);
}
