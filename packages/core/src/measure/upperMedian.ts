/**
 * The median of some values, of an even number the upper of the two in the middle, by quickselect (Hoare 1961): several times
 * as fast as sorting them. The values change places.
 *
 * @param values at least one, each a number
 */
export function upperMedian(values: Float32Array): number {
  const wanted = values.length >> 1;
  let [from, to] = [0, values.length - 1];
  while (from < to) {
    const pivot = values[(from + to) >> 1];
    let [i, j] = [from, to];
    while (i <= j) {
      while (values[i] < pivot) i++;
      while (values[j] > pivot) j--;
      if (i > j) break;
      const value = values[i];
      values[i++] = values[j];
      values[j--] = value;
    }
    if (wanted <= j) to = j;
    else if (wanted >= i) from = i;
    else break;
  }
  return values[wanted];
}
