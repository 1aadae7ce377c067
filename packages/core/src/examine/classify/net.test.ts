import { describe, expect, it } from 'vitest';
import { gaussian } from '../../random/gaussian.ts';
import { mulberry } from '../../random/mulberry.ts';
import { floatsAt } from '../../kernels/kernels.ts';
import {
  GATHERED,
  LOOK_CHANNELS,
  LOOK_SIDE,
  NET_LAYERS,
  NET_PARTS,
  NET_SEEN,
  NET_SIZE,
} from './netLayers.ts';
import { teachNet } from './netSlopes.ts';
import { holdNet } from './runNet.ts';
import { untaughtNet } from './untaughtNet.ts';

const FEATURES = [0.5, -1];

function randomNet(seed: number): { numbers: Float32Array; values: Float32Array } {
  const uniform = mulberry(seed);
  const numbers = untaughtNet(() => gaussian(uniform)).map((value) => value + 0.02 * gaussian(uniform));
  const values = new Float32Array(LOOK_SIDE * LOOK_SIDE * LOOK_CHANNELS).map(() => gaussian(uniform));
  return { numbers, values };
}

/** A convolution of 3 x 3 places as it is written in textbooks, zeros beyond the border, rectified. */
function plainLayer(
  numbers: Float32Array,
  values: Float32Array,
  x: number,
  y: number,
  channel: number,
): number {
  const [{ side, inside, outside }] = NET_LAYERS;
  const [{ weights, bias }] = NET_PARTS;
  let sum = numbers[bias + channel];
  for (let ky = 0; ky < 3; ky++)
    for (let kx = 0; kx < 3; kx++)
      for (let i = 0; i < inside; i++) {
        const [row, column] = [y + ky - 1, x + kx - 1];
        if (row < 0 || column < 0 || row >= side || column >= side) continue;
        sum +=
          values[(row * side + column) * inside + i] *
          numbers[weights + ((ky * 3 + kx) * inside + i) * outside + channel];
      }
  return Math.max(0, sum);
}

describe('a small convolutional net', () => {
  it('convolves as it is written in textbooks, at the border as well', () => {
    const { numbers, values } = randomNet(1);
    const [{ side, outside }] = NET_LAYERS;
    const first = holdNet(numbers, ({ judge, layers }) => {
      judge(values, FEATURES);
      return floatsAt(layers[0].output, side * side * outside).slice();
    });
    for (const [x, y] of [
      [0, 0],
      [47, 0],
      [0, 47],
      [47, 47],
      [17, 4],
      [8, 30],
    ])
      for (let c = 0; c < outside; c++)
        expect(first[(y * side + x) * outside + c]).toBeCloseTo(plainLayer(numbers, values, x, y, c), 4);
  });

  it('weighs all that it has seen as plain sums, what is left out as nothing', () => {
    const { numbers, values } = randomNet(4);
    const kept = new Float32Array(NET_SEEN).map((_, i) => (i % 3 === 0 ? 0 : 1.5));
    const [part] = NET_PARTS.slice(NET_LAYERS.length);
    const { seen, gathered } = holdNet(numbers, ({ judge }) => judge(values, FEATURES, kept));
    for (let o = 0; o < GATHERED; o++) {
      const sum = seen.reduce(
        (total, value, i) => total + value * numbers[part.weights + i * GATHERED + o],
        numbers[part.bias + o],
      );
      expect(gathered[o]).toBeCloseTo(Math.max(0, sum), 3);
    }
    expect(seen.some((value) => value > 0)).toBe(true);
    seen.forEach((value, i) => expect(i % 3 === 0 && value !== 0).toBe(false));
    expect([...gathered.slice(GATHERED)]).toEqual(FEATURES);
  });

  it('says the same of the same values, whatever was looked at before', () => {
    const { numbers, values } = randomNet(2);
    const { values: other } = randomNet(3);
    const [first, , again] = holdNet(numbers, ({ judge }) =>
      [values, other, values].map((one) => judge(one, FEATURES).score),
    );
    expect(again).toBe(first);
  });

  it('refuses numbers of another net', () => {
    expect(() => holdNet(new Float32Array(NET_SIZE - 1), () => 0)).toThrow(RangeError);
  });

  it('has the slopes that small changes of its numbers show, through every layer', () => {
    const { numbers, values } = randomNet(4);
    const uniform = mulberry(5);
    const kept = new Float32Array(NET_SEEN).map(() => (uniform() < 0.3 ? 0 : 1.4));
    const scoreOf = (changed: Float32Array): number =>
      holdNet(changed, ({ judge }) => judge(values, FEATURES, kept).score);
    const slopes = new Float32Array(NET_SIZE);
    teachNet(numbers, ({ judge, addSlopes }) => addSlopes(judge(values, FEATURES, kept), 1, kept, slopes));
    // Of each part the numbers that matter most, and some others.
    for (const { weights, end } of NET_PARTS) {
      const own = Array.from({ length: end - weights }, (_, i) => weights + i);
      const steepest = own.sort((a, b) => Math.abs(slopes[b]) - Math.abs(slopes[a])).slice(0, 4);
      for (const i of steepest) {
        const step = 1e-3;
        const [more, less] = [numbers.slice(), numbers.slice()];
        more[i] += step;
        less[i] -= step;
        const seen = (scoreOf(more) - scoreOf(less)) / (2 * step);
        expect(Math.abs(seen - slopes[i])).toBeLessThan(0.02 * Math.abs(slopes[i]) + 2e-3);
      }
    }
  });
});
