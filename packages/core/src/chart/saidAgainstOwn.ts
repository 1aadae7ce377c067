/** A fitted place of a chart: what each frame says for it, in log likelihood, and how much it looks like dirt. */
export interface SaidPlace {
  readonly said: readonly number[];
  readonly score: number;
}

/** Places that look like dirt less than others are none: this share of all, and so many at least. */
const NONE = { share: 0.75, least: 6 };
/** Of what chance says the uppermost share follows the law of excesses over a threshold. */
const TAIL = 0.1;

/** So few places tell of chance half of what many do. */
const FEW = 40;

/** How much what a chart's own places tell of chance is to count, 0 to 1: few of them tell little. */
export const trustIn = (places: number): number => places / (places + FEW);

/** How rarely chance says so much, as a function that gives the negative logarithm of the share. */
function rarityAmong(values: readonly number[]): (said: number) => number {
  const sorted = Float64Array.from(values).sort();
  const threshold = sorted[Math.floor((1 - TAIL) * sorted.length)] ?? 0;
  const beyond = sorted.filter((value) => value > threshold);
  const excess = beyond.reduce((sum, value) => sum + value - threshold, 0) / Math.max(1, beyond.length);
  const mean = Math.max(0.5, excess);
  return (said) => {
    // A generalised Pareto law of shape 1/2: what chance says has a heavy tail.
    if (said > threshold) return -Math.log(TAIL) + 2 * Math.log1p((said - threshold) / mean);
    let [low, high] = [0, sorted.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (sorted[middle] < said) low = middle + 1;
      else high = middle;
    }
    return -Math.log(Math.max(TAIL, 1 - low / sorted.length));
  };
}

/**
 * How much more the frames say for each place of a chart than they say by chance, in standard deviations. What chance
 * says is learned from the chart itself, by its least likely places: in a busy shoot much stands out here and there,
 * in a calm one hardly anything. The shares of all frames are put together as Fisher 1925 does, the tail follows
 * Pickands 1975.
 */
export function saidAgainstOwn(places: readonly SaidPlace[]): number[] {
  const lowest = [...places].sort((a, b) => a.score - b.score);
  const none = lowest.slice(0, Math.max(NONE.least, Math.floor(NONE.share * places.length)));
  const rarityOf = rarityAmong(none.flatMap(({ said }) => said));
  return places.map(({ said }) => {
    const sum = said.reduce((all, one) => all + rarityOf(one), 0);
    // By chance each of them is 1 in the mean, with a variance of 1.
    return said.length === 0 ? 0 : (sum - said.length) / Math.sqrt(said.length);
  });
}
