import { describe, expect, it } from 'vitest';
import { SRGB_TRANSFER, sharedTransferTable } from '../../light/transfer.ts';
import { pixelsOf } from '../../raster/pixels.ts';
import { fullScale } from '../../raster/raster.ts';
import { pictureOf, speckAt } from '../../testing/pictures.ts';
import { LOOK_CHANNELS, LOOK_SIDE } from '../classify/netLayers.ts';
import type { Fault } from '../../fault/fault.ts';
import { scoreWithNet } from './scoreWithNet.ts';
import { LOOK_RADIUS, speckLight } from './speckLight.ts';
import { netInput } from './netInput.ts';

const [WIDTH, HEIGHT] = [240, 200];
const speck = (more: Partial<Fault>): Fault => ({
  ...{ kind: 'speck', polarity: 'dark', x: 120, y: 100, r: 9, strength: 0.2, softness: 0.4, confidence: 0.3 },
  ...more,
});
const picture = (tone: (x: number, y: number) => number): ReturnType<typeof pixelsOf> =>
  pixelsOf(pictureOf(WIDTH, HEIGHT, tone, { grain: 0.01 }));

const shadow =
  (r: number, depth = 0.15) =>
  (x: number, y: number): number =>
    0.5 * (1 - depth * speckAt(x, y, 120, 100, r, 0.4));
const window = (x: number, y: number): number =>
  Math.abs(x - 120) < 9 && Math.abs(y - 100) < 7 ? 0.35 : 0.5;

/** Mean of a channel of a values over places that lie so far from the middle, in radii. */
function meanOf(values: Float32Array, channel: number, from: number, to: number): number {
  let [sum, count] = [0, 0];
  for (let i = 0; i < LOOK_SIDE * LOOK_SIDE; i++) {
    const [x, y] = [(i % LOOK_SIDE) + 0.5 - LOOK_SIDE / 2, Math.floor(i / LOOK_SIDE) + 0.5 - LOOK_SIDE / 2];
    const away = Math.hypot(x, y) / LOOK_RADIUS;
    if (away < from || away >= to) continue;
    sum += values[LOOK_CHANNELS * i + channel];
    count++;
  }
  return sum / count;
}

describe('the light of a speck', () => {
  it.each([3, 9, 24])('has the speck at one size in its middle, found with a radius of %i pixels', (r) => {
    const light = speckLight(speck({ r }), picture(shadow(r)));
    const { values } = netInput(light, speck({ r }));
    expect(meanOf(values, 0, 0, 0.6)).toBeLessThan(-0.4);
    expect(Math.abs(meanOf(values, 0, 1.7, 2.9))).toBeLessThan(0.05);
  });

  it.each([8, 16] as const)('is the light of the codes, in a picture of %i bits', (depth) => {
    const flat = pictureOf(60, 60, () => 0.5, { depth });
    const [code] = flat.planes[0];
    const { light } = sharedTransferTable(SRGB_TRANSFER, fullScale(depth));
    for (const plane of speckLight({ x: 30, y: 30, r: 5 }, pixelsOf(flat)))
      for (const value of plane) expect(value).toBeCloseTo(light[code], 5);
  });

  it('goes on beyond the picture as it is at the border', () => {
    const light = speckLight(
      speck({ x: 2, y: 3 }),
      picture(() => 0.5),
    );
    expect(light.every((plane) => plane.every((value) => value > 0.1 && value < 0.4))).toBe(true);
  });
});

describe('what a net is shown', () => {
  it('is the same of a shadow in bright and in dim light, but for the darkest', () => {
    const [light] = [speckLight(speck({}), picture(shadow(9)))];
    const dim = light.map((plane) => plane.map((value) => 0.7 * value));
    const [bright, dimmed] = [light, dim].map((one) => netInput(one, speck({})).values);
    bright.forEach((value, i) => expect(Math.abs(value - dimmed[i])).toBeLessThan(0.15));
  });

  it('is made of departures in logarithms, bounded', () => {
    const light = speckLight(speck({}), picture(shadow(9)));
    const { values } = netInput(light, speck({}));
    const grey = light[0].map(
      (_, i) => light.reduce((sum, plane) => sum + Math.log(plane[i] + 0.01), 0) / light.length,
    );
    // Two places differ by what they differ by in logarithms, whatever is usual around them.
    const departure = (i: number): number => {
      const value = values[LOOK_CHANNELS * i];
      return value / (2 - Math.abs(value)) / 3;
    };
    for (let i = 0; i < grey.length - 50; i += 7)
      expect(departure(i) - departure(i + 50)).toBeCloseTo(grey[i] - grey[i + 50], 4);
  });

  it('tells nothing of which colour it is: red for blue is the same', () => {
    const [red, green, blue] = speckLight(speck({}), picture(shadow(9)));
    const tinted = red.map((value, i) => value * (1 + 0.002 * (i % 50)));
    const [one, other] = [
      [tinted, green, blue],
      [blue, green, tinted],
    ].map((light) => netInput(light, speck({})).values);
    one.forEach((value, i) => expect(value).toBeCloseTo(other[i], 4));
  });

  it('shows a bright speck as it does a dark one', () => {
    const light = speckLight(speck({}), picture(shadow(9, -0.2)));
    expect(meanOf(netInput(light, speck({ polarity: 'bright' })).values, 0, 0, 0.6)).toBeLessThan(-0.3);
  });
});

describe('scoring with the net', () => {
  const scoreOf = (tone: (x: number, y: number) => number, more: Partial<Fault> = {}): number =>
    scoreWithNet([speck(more)], picture(tone))[0];

  it('takes a soft shadow for one rather than a window, an edge or grain', () => {
    const seen = scoreOf(shadow(9));
    expect(seen).toBeGreaterThan(scoreOf(window) + 1);
    expect(seen).toBeGreaterThan(scoreOf((x) => (x > 120 ? 0.6 : 0.4)) + 1);
    expect(seen).toBeGreaterThan(scoreOf(() => 0.5) + 1);
  });

  it('says the same of a speck alone and among others', () => {
    const pixels = picture(shadow(9));
    const [one, other] = [speck({}), speck({ x: 40, y: 60, r: 4, polarity: 'bright' })];
    expect(scoreWithNet([other, one], pixels)[1]).toBe(scoreWithNet([one], pixels)[0]);
  });
});
