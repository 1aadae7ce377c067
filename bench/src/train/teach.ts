import type { Fault } from '@fennip/core/fault';
import {
  LOOK_CHANNELS,
  LOOK_SIDE,
  NET_SEEN,
  NET_SIZE,
  netInput,
  teachNet,
  untaughtNet,
} from '@fennip/core/bench';
import { gaussian, mulberry } from '@fennip/core/random';
import { logistic } from '@fennip/core/solve';

/** A speck that is learned from. */
export interface LookExample {
  /** Linear light around it; see `speckLight`. */
  readonly light: readonly Float32Array[];
  readonly speck: Pick<Fault, 'r' | 'polarity'>;
  readonly label: 0 | 1;
  /** How much it counts; 1 in the mean. */
  readonly counts: number;
}

export interface TeachOptions {
  /** How often every example is shown. */
  readonly rounds: number;
  /** Examples whose slopes are followed together. */
  readonly batch: number;
  /** The largest step, reached after a third of the way (Smith 2018). */
  readonly rate: number;
  /** Share by which numbers shrink at a step of 1 (Loshchilov and Hutter 2019). */
  readonly decay: number;
  /** Share of what is seen that is left out by chance. */
  readonly leftOut: number;
}

export const TEACH_DEFAULTS: TeachOptions = { rounds: 8, batch: 64, rate: 4e-3, decay: 1e-3, leftOut: 0.4 };

/** Share of the looks at which the light has a cast, and of its colours that are dimmed then. */
const CAST = 0.5;

/** The same speck under another light: brighter or darker, with a cast of any colour. What is a veil stays one. */
function underOtherLight(light: readonly Float32Array[], uniform: () => number): Float32Array[] {
  const exposure = 1.5 * (uniform() - 0.7);
  const hasCast = uniform() < CAST;
  return light.map((plane) => {
    const dimmed = hasCast && uniform() < CAST ? 2.5 * uniform() : 0;
    const by = Math.exp(exposure - dimmed);
    return plane.map((value) => by * value);
  });
}

/** A look turned, mirrored and moved by a place at most: which way is up tells nothing. */
function turnedLook(look: Float32Array, uniform: () => number): Float32Array {
  const [isMirrored, isTurned, isFlipped] = [uniform() < 0.5, uniform() < 0.5, uniform() < 0.5];
  const [dx, dy] = [Math.floor(3 * uniform()) - 1, Math.floor(3 * uniform()) - 1];
  const out = new Float32Array(look.length);
  const last = LOOK_SIDE - 1;
  for (let y = 0, i = 0; y < LOOK_SIDE; y++)
    for (let x = 0; x < LOOK_SIDE; x++, i += LOOK_CHANNELS) {
      const u = (isMirrored ? last - x : x) + dx;
      const v = (isFlipped ? last - y : y) + dy;
      const [column, row] = [Math.max(0, Math.min(last, u)), Math.max(0, Math.min(last, v))];
      const from = LOOK_CHANNELS * (isTurned ? column * LOOK_SIDE + row : row * LOOK_SIDE + column);
      for (let c = 0; c < LOOK_CHANNELS; c++) out[i + c] = look[from + c];
    }
  return out;
}

/** The step at a share of the way: up along a cosine to a third of it, then down to nothing. */
function rateAt(share: number, most: number): number {
  const [rising, falling] = [Math.min(1, share / 0.3), Math.max(0, (share - 0.3) / 0.7)];
  return share < 0.3
    ? most * (0.04 + 0.96 * (0.5 - 0.5 * Math.cos(Math.PI * rising)))
    : most * (0.5 + 0.5 * Math.cos(Math.PI * falling));
}

/** All numbers from 0 up in an order of chance. */
function shuffled(count: number, uniform: () => number): Int32Array {
  const order = new Int32Array(count).map((_, i) => i);
  for (let i = count - 1; i > 0; i--) {
    const other = Math.floor(uniform() * (i + 1));
    [order[i], order[other]] = [order[other], order[i]];
  }
  return order;
}

/**
 * Teaches a small convolutional net by following the slope of the logistic loss (Adam with decoupled decay; Kingma and Ba
 * 2015, Loshchilov and Hutter 2019). Seeded: the same examples give the same net.
 *
 * @param onRound is onRound the mean loss after each round
 * @returns all numbers of the net
 */
export function teach(
  examples: readonly LookExample[],
  seed: number,
  options: TeachOptions = TEACH_DEFAULTS,
  onRound: (round: number, loss: number) => void = () => undefined,
): Float32Array {
  const { rounds, batch, rate, decay, leftOut } = options;
  const uniform = mulberry(seed);
  const [mean, square] = [new Float64Array(NET_SIZE), new Float64Array(NET_SIZE)];
  const slopes = new Float32Array(NET_SIZE);
  const steps = rounds * Math.ceil(examples.length / batch);
  return teachNet(
    untaughtNet(() => gaussian(uniform)),
    ({ judge, numbers, addSlopes }) => {
      let step = 0;
      for (let round = 0; round < rounds; round++) {
        const order = shuffled(examples.length, uniform);
        let loss = 0;
        for (let from = 0; from < order.length; from += batch) {
          const some = order.subarray(from, from + batch);
          slopes.fill(0);
          for (const k of some) {
            const { light, speck, label, counts } = examples[k];
            const { values, features: beside } = netInput(underOtherLight(light, uniform), speck);
            const turned = turnedLook(values, uniform);
            const kept = new Float32Array(NET_SEEN).map(() => (uniform() < leftOut ? 0 : 1 / (1 - leftOut)));
            const judgement = judge(turned, beside, kept);
            const probability = logistic(judgement.score);
            loss -= counts * Math.log(Math.max(1e-9, label === 1 ? probability : 1 - probability));
            addSlopes(judgement, (counts * (probability - label)) / some.length, kept, slopes);
          }
          step++;
          follow(numbers(), slopes, { mean, square, step, rate: rateAt(step / steps, rate), decay });
        }
        onRound(round + 1, loss / examples.length);
      }
      return numbers().slice();
    },
  );
}

const MEMORY = { mean: 0.9, square: 0.999 };

/** One step of Adam. */
function follow(
  numbers: Float32Array,
  slopes: Float32Array,
  at: { mean: Float64Array; square: Float64Array; step: number; rate: number; decay: number },
): void {
  const { mean, square, step, rate, decay } = at;
  const [ofMean, ofSquare] = [1 - MEMORY.mean ** step, 1 - MEMORY.square ** step];
  for (let i = 0; i < numbers.length; i++) {
    mean[i] += (1 - MEMORY.mean) * (slopes[i] - mean[i]);
    square[i] += (1 - MEMORY.square) * (slopes[i] * slopes[i] - square[i]);
    numbers[i] -= rate * (decay * numbers[i] + mean[i] / ofMean / (Math.sqrt(square[i] / ofSquare) + 1e-8));
  }
}
