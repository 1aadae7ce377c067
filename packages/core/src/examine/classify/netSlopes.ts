import { VALUE, clear, floatsAt, holding, kernels, takeFloats } from '../../kernels/kernels.ts';
import type { NetLayer } from './netLayers.ts';
import { GATHERED, NET_LAYERS, NET_PARTS, NET_SHAPES, NET_SIZE } from './netLayers.ts';
import type { HeldNet, NetJudgement } from './runNet.ts';
import { holdNet } from './runNet.ts';

/** A net that can be taught. */
export interface TaughtNet {
  judge: HeldNet['judge'];
  /** What all numbers of the net are; to be changed in place between examples. */
  numbers(): Float32Array;
  /**
   * Adds to `onto` how much a loss changes with each number of the net, for the look that was judged last.
   *
   * @param slope of the loss with the score
   * @param kept 0 for what of the seen was left out, and what the others count (dropout; Srivastava et al. 2014)
   */
  addSlopes(judgement: NetJudgement, slope: number, kept: Float32Array | null, onto: Float32Array): void;
}

/** Through a layer of all inputs: adds the slopes of its numbers, and tells those of its inputs. */
function throughDense(
  numbers: Float32Array,
  layer: number,
  inputs: Float32Array,
  slopes: Float32Array,
  onto: Float32Array,
): Float32Array {
  const { weights, bias } = NET_PARTS[layer];
  const [, count] = NET_SHAPES[layer];
  const back = new Float32Array(inputs.length);
  for (let i = 0, w = weights; i < inputs.length; i++) {
    let sum = 0;
    for (let o = 0; o < count; o++, w++) {
      sum += slopes[o] * numbers[w];
      onto[w] += slopes[o] * inputs[i];
    }
    back[i] = sum;
  }
  for (let o = 0; o < count; o++) onto[bias + o] += slopes[o];
  return back;
}

/** Where a rectified value is 0, nothing changes with what it was made from. */
function throughRectified(slopes: Float32Array, values: ArrayLike<number>): Float32Array {
  for (let i = 0; i < slopes.length; i++) if (values[i] <= 0) slopes[i] = 0;
  return slopes;
}

/** What is not halved goes on as it is, where it is above 0. Both have a border. */
function throughWhole(
  slopes: Float32Array,
  values: Float32Array,
  { side, outside }: NetLayer,
  onto: Float32Array,
): void {
  const width = side * outside;
  for (let y = 0; y < side; y++) {
    const at = (y + 1) * (side + 2) * outside + outside;
    for (let i = 0; i < width; i++) onto[at + i] = values[at + i] > 0 ? slopes[y * width + i] : 0;
  }
}

/** Weights of a convolution as what goes back is convolved with: places turned around, channels in and out exchanged. */
function turned(numbers: Float32Array, layer: number): Float32Array {
  const { inside, outside } = NET_LAYERS[layer];
  const out = new Float32Array(9 * inside * outside);
  for (let tap = 0; tap < 9; tap++)
    for (let i = 0; i < inside; i++)
      for (let o = 0; o < outside; o++)
        out[((8 - tap) * outside + o) * inside + i] =
          numbers[NET_PARTS[layer].weights + (tap * inside + i) * outside + o];
  return out;
}

/** Back-propagation (Rumelhart, Hinton, Williams 1986) through a net that is held. @param work must be done when it returns */
export function teachNet<T>(numbers: Float32Array, work: (net: TaughtNet) => T): T {
  const borders = NET_LAYERS.map(({ side, outside }) => (side + 2) ** 2 * outside);
  const weightCounts = NET_LAYERS.map(({ inside, outside }) => 9 * inside * outside);
  const most = VALUE * Math.max(...weightCounts);
  const widest = Math.max(...NET_LAYERS.map(({ inside, outside }) => Math.max(inside, outside)));
  const parts = [most, most, VALUE * widest, new Float32Array(widest), VALUE * borders[0]];
  return holdNet(numbers, (net) =>
    holding(
      [...parts, ...borders.map((count) => VALUE * count)],
      (slopes, back, sums, nothing, passed, ...spread) => {
        spread.forEach((place, k) => clear(place, VALUE * borders[k]));

        /** Slopes of a layer's numbers, from those of what comes out of it, which lie in its `spread`. */
        function addOfLayer(k: number, onto: Float32Array): void {
          const { side, inside, outside } = NET_LAYERS[k];
          const { slopesOfWeights, sumOfPlaces } = kernels();
          const first = spread[k] + VALUE * (side + 3) * outside;
          slopesOfWeights(net.layers[k].input, side, inside, first, side + 2, outside, slopes);
          addTo(onto, NET_PARTS[k].weights, floatsAt(slopes, weightCounts[k]));
          sumOfPlaces(spread[k], (side + 2) ** 2, outside, sums);
          addTo(onto, NET_PARTS[k].bias, floatsAt(sums, outside));
        }

        /** Lays slopes of what a layer hands on where they belong before the largest were taken. */
        function throughLargest(k: number, slopes: Float32Array): void {
          const layer = NET_LAYERS[k];
          const { side, outside, isHalved } = layer;
          if (isHalved) {
            floatsAt(passed, slopes.length).set(slopes);
            const first = spread[k] + VALUE * (side + 3) * outside;
            kernels().slopesOfFour(net.layers[k].output, side, outside, passed, first, side + 2);
          } else {
            const values = floatsAt(net.layers[k].output - VALUE * (side + 3) * outside, borders[k]);
            throughWhole(slopes, values, layer, floatsAt(spread[k], borders[k]));
          }
        }

        /** Slopes of what goes into a layer, from those of what comes out of it. */
        function throughLayer(k: number, own: Float32Array): Float32Array {
          const { side, inside, outside } = NET_LAYERS[k];
          floatsAt(back, weightCounts[k]).set(turned(own, k));
          kernels().convolve(spread[k], side, outside, back, nothing, inside, passed, side, -Infinity);
          return takeFloats(passed, side * side * inside);
        }

        function addSlopes(
          { seen, gathered, judged }: NetJudgement,
          slope: number,
          kept: Float32Array | null,
          onto: Float32Array,
        ): void {
          const own = floatsAt(net.numbers, NET_SIZE);
          const first = NET_LAYERS.length;
          const ofJudged = throughDense(own, first + 2, judged, Float32Array.of(slope), onto);
          const ofGathered = throughDense(own, first + 1, gathered, throughRectified(ofJudged, judged), onto);
          const ofRectified = throughRectified(ofGathered.subarray(0, GATHERED), gathered);
          let slopes = throughDense(own, first, seen, ofRectified, onto);
          if (kept) slopes = slopes.map((value, i) => value * kept[i]);
          for (let k = NET_LAYERS.length - 1; k >= 0; k--) {
            throughLargest(k, slopes);
            addOfLayer(k, onto);
            if (k > 0) slopes = throughLayer(k, own);
          }
        }
        return work({ judge: net.judge, numbers: () => floatsAt(net.numbers, NET_SIZE), addSlopes });
      },
    ),
  );
}

function addTo(onto: Float32Array, at: number, more: Float32Array): void {
  for (let i = 0; i < more.length; i++) onto[at + i] += more[i];
}
