/** The median of some values, of an even number the upper of the two in the middle; 0 for none. */
export const medianOf = (values: ArrayLike<number>): number =>
  new Float64Array(values).sort()[values.length >> 1] ?? 0;
