import { VALUE, clear, floatsAt, holding, kernels, takeFloats } from '../../kernels/kernels.ts';
import type { NetLayer, NetPart } from './netLayers.ts';
import { GATHERED, JUDGED, NET_LAYERS, NET_PARTS, NET_SEEN, NET_SIZE, TOLD } from './netLayers.ts';

/** Where a layer's samples lie in the memory of the kernels. */
export interface LayerPlaces {
  /** What goes in, with a border of zeros. */
  readonly input: number;
  /** Where the first place of what comes out lies, before the largest are taken, and how many places a row has there. */
  readonly output: number;
  readonly columns: number;
}

/** What all that was seen comes to. */
export interface NetJudgement {
  /** What comes out of the convolutions. */
  readonly seen: Float32Array;
  /** What that comes to, with the further features behind it. */
  readonly gathered: Float32Array;
  readonly judged: Float32Array;
  /** A log-odds. */
  readonly score: number;
}

/** A net that lies in the memory of the kernels. */
export interface HeldNet {
  readonly numbers: number;
  readonly layers: readonly LayerPlaces[];
  /**
   * @param look `LOOK_SIDE` places a row and column, `LOOK_CHANNELS` values each
   * @param features `TOLD` values
   * @param kept what each value of the seen counts, where some are left out
   */
  judge(look: Float32Array, features: readonly number[], kept?: Float32Array): NetJudgement;
}

const bordered = ({ side, inside }: NetLayer): number => VALUE * (side + 2) ** 2 * inside;
/** Bytes before the first place inside the border. */
const intoBorder = ({ side, inside }: NetLayer): number => VALUE * (side + 3) * inside;

/** Copies a look into the middle of what has a border. */
function withinBorder(look: Float32Array, { side, inside }: NetLayer, input: number): void {
  const width = side * inside;
  const onto = floatsAt(input, (side + 2) ** 2 * inside);
  for (let y = 0; y < side; y++)
    onto.set(look.subarray(y * width, (y + 1) * width), ((y + 1) * (side + 2) + 1) * inside);
}

/** All inputs weighed and added up for each output. */
function dense(numbers: Float32Array, part: NetPart, inputs: Float32Array, count: number): Float32Array {
  const sums = numbers.slice(part.bias, part.bias + count);
  for (let i = 0, w = part.weights; i < inputs.length; i++, w += count) {
    const input = inputs[i];
    if (input === 0) continue;
    for (let o = 0; o < count; o++) sums[o] += input * numbers[w + o];
  }
  return sums;
}

function rectified(values: Float32Array): Float32Array {
  for (let i = 0; i < values.length; i++) if (values[i] < 0) values[i] = 0;
  return values;
}

/** What is not halved is written where the next layer reads it. */
function placesOf(inputs: readonly number[], outputs: readonly number[]): LayerPlaces[] {
  return NET_LAYERS.map(({ side, isHalved }, k): LayerPlaces => {
    const input = inputs[k];
    if (isHalved) return { input, output: outputs[k], columns: side };
    return { input, output: inputs[k + 1] + intoBorder(NET_LAYERS[k + 1]), columns: side + 2 };
  });
}

/**
 * A small convolutional net (LeCun, Bottou, Bengio, Haffner 1998): rectified convolutions of 3 x 3 places, of which the
 * largest of every four go on, and two layers of all that is left.
 *
 * @param numbers all weights, as {@link NET_PARTS} tells
 * @param work must be done when it returns
 */
export function holdNet<T>(numbers: Float32Array, work: (net: HeldNet) => T): T {
  if (numbers.length !== NET_SIZE)
    throw new RangeError(`a net has ${NET_SIZE} numbers, not ${numbers.length}`);
  const ins = NET_LAYERS.map(bordered);
  const outs = NET_LAYERS.map(({ side, outside, isHalved }) => (isHalved ? VALUE * side ** 2 * outside : 0));
  const room = [VALUE * NET_SEEN, VALUE * GATHERED];
  return holding([numbers, ...room, ...ins, ...outs], (held, last, all, ...places) => {
    const inputs = places.slice(0, NET_LAYERS.length);
    const layers = placesOf(inputs, places.slice(NET_LAYERS.length));
    inputs.forEach((input, k) => clear(input, ins[k]));

    /** Leaves what comes out of the convolutions in `last`. */
    function see(look: Float32Array): void {
      const { convolve, largestOfFour } = kernels();
      withinBorder(look, NET_LAYERS[0], inputs[0]);
      NET_LAYERS.forEach(({ side, inside, outside, isHalved }, k) => {
        const { input, output, columns } = layers[k];
        const [weights, bias] = [held + VALUE * NET_PARTS[k].weights, held + VALUE * NET_PARTS[k].bias];
        convolve(input, side, inside, weights, bias, outside, output, columns, 0);
        if (!isHalved) return;
        const next = NET_LAYERS.at(k + 1);
        if (next) largestOfFour(output, side, outside, inputs[k + 1] + intoBorder(next), next.side + 2);
        else largestOfFour(output, side, outside, last, side / 2);
      });
    }

    /** Leaves what all that was seen comes to in `all`. */
    function gather(): void {
      const { weights, bias } = NET_PARTS[NET_LAYERS.length];
      const [from, added] = [held + VALUE * weights, held + VALUE * bias];
      kernels().weighInputs(last, NET_SEEN, from, added, GATHERED, all);
    }

    function judge(look: Float32Array, features: readonly number[], kept?: Float32Array): NetJudgement {
      see(look);
      if (kept) {
        const seen = floatsAt(last, NET_SEEN);
        for (let i = 0; i < seen.length; i++) seen[i] *= kept[i];
      }
      gather();
      const own = floatsAt(held, NET_SIZE);
      const [judging, deciding] = NET_PARTS.slice(NET_LAYERS.length + 1);
      const gathered = new Float32Array(GATHERED + TOLD);
      gathered.set(rectified(takeFloats(all, GATHERED)));
      gathered.set(features, GATHERED);
      const judged = rectified(dense(own, judging, gathered, JUDGED));
      return {
        seen: takeFloats(last, NET_SEEN),
        gathered,
        judged,
        score: dense(own, deciding, judged, 1)[0],
      };
    }
    return work({ numbers: held, layers, judge });
  });
}
