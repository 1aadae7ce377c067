/** Which parabolas make the envelope of a line, and where one gives way to the next. */
interface Envelope {
  readonly vertex: Int32Array;
  readonly border: Float64Array;
}

/** Squared distances along one line: the lower envelope of parabolas. What the envelope held before does not matter. */
function transformLine(
  costs: Float64Array,
  count: number,
  out: Float64Array,
  { vertex, border }: Envelope,
): void {
  let last = 0;
  vertex[0] = 0;
  border[0] = -Infinity;
  border[1] = Infinity;
  for (let q = 1; q < count; q++) {
    let meet = crossing(costs, q, vertex[last]);
    while (meet <= border[last]) meet = crossing(costs, q, vertex[--last]);
    last++;
    vertex[last] = q;
    border[last] = meet;
    border[last + 1] = Infinity;
  }
  for (let q = 0, k = 0; q < count; q++) {
    while (border[k + 1] < q) k++;
    out[q] = (q - vertex[k]) ** 2 + costs[vertex[k]];
  }
}

const crossing = (costs: Float64Array, q: number, p: number): number =>
  (costs[q] + q * q - (costs[p] + p * p)) / (2 * (q - p));

/** Far beyond any picture, yet small enough that differences of it stay exact. */
const FAR = 1e12;

/**
 * Exact Euclidean distance in pixels from the centre of each pixel to the centre of the nearest pixel of the set
 * (`inside` above 0). An empty set gives distances beyond any picture.
 * (Felzenszwalb and Huttenlocher 2012, Distance transforms of sampled functions.)
 */
export function distanceToSet(inside: Uint8Array, width: number, height: number): Float32Array {
  const squared = new Float64Array(width * height);
  for (let i = 0; i < squared.length; i++) squared[i] = inside[i] ? 0 : FAR;
  const longest = Math.max(width, height);
  const line = new Float64Array(longest);
  const done = new Float64Array(longest);
  const envelope = { vertex: new Int32Array(longest), border: new Float64Array(longest + 1) };
  for (let x = 0; x < width; x++) {
    for (let y = 0; y < height; y++) line[y] = squared[y * width + x];
    transformLine(line, height, done, envelope);
    for (let y = 0; y < height; y++) squared[y * width + x] = done[y];
  }
  for (let y = 0; y < height; y++) {
    line.set(squared.subarray(y * width, (y + 1) * width));
    transformLine(line, width, done, envelope);
    squared.set(done.subarray(0, width), y * width);
  }
  const distances = new Float32Array(squared.length);
  for (let i = 0; i < squared.length; i++) distances[i] = Math.sqrt(squared[i]);
  return distances;
}
