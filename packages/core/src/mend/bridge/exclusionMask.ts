/**
 * What a gap is not closed from: what lies beyond a fence, and what else is said to.
 *
 * @param allowance of the fences, 0 to 1; none where no fence has a say
 * @param isExcluded by index; none where nothing else is
 * @returns 1 for each such pixel; none where there is none
 */
export function exclusionMask(
  allowance: Float32Array | null,
  isExcluded: ((index: number) => boolean) | null,
  count: number,
): Uint8Array | null {
  if (!allowance && !isExcluded) return null;
  const excluded = new Uint8Array(count);
  for (let i = 0; i < count; i++) if ((allowance && allowance[i] < 1) || isExcluded?.(i)) excluded[i] = 1;
  return excluded;
}
