import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { kernels } from '../../kernels/kernels.ts';
import { pixelsOf } from '../../raster/pixels.ts';
import { wholeWindow } from '../../raster/window.ts';
import { pictureOf } from '../../testing/pictures.ts';
import type { HeldGround } from './heldGround.ts';
import { holdGround } from './heldGround.ts';
import { lumaHeld } from './heldLuma.ts';
import { halveLuma, lumaOf } from './lumaLevels.ts';

const [WIDTH, HEIGHT] = [23, 17];

/** A place of the picture for any place on the line it is on, there and back between its borders. */
function there(at: number, last: number): number {
  let place = at;
  while (place < 0 || place > last) place = place < 0 ? -1 - place : 2 * last + 1 - place;
  return place;
}

/** What a ground holds of each channel. */
function samplesOf({
  colours: { channels, width, height, depth },
}: HeldGround): (Uint8Array | Uint16Array)[] {
  const Samples = depth === 16 ? Uint16Array : Uint8Array;
  return channels.map((at) => new Samples(kernels().memory.buffer, at, width * height).slice());
}

describe('the ground that is examined', () => {
  it('goes on beyond the borders of its picture as its mirror image, there and back', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 60 }),
        fc.constantFrom(1, 2, 3, 4),
        fc.constantFrom(8 as const, 16 as const),
        (beyond, channels, depth) => {
          const tone = (x: number, y: number): number => ((7 * x + 13 * y) % 50) / 50;
          const picture = pictureOf(WIDTH, HEIGHT, tone, { channels, depth, grain: 0.1 });
          holdGround(wholeWindow(picture), { beyond, levels: 1 }, (ground) => {
            const { width, height } = ground.colours;
            expect([ground.left, ground.top]).toEqual([-beyond, -beyond]);
            expect([width, height]).toEqual([WIDTH + 2 * beyond, HEIGHT + 2 * beyond]);
            const held = samplesOf(ground);
            // Alpha is no colour, and grey is one channel.
            expect(held.length).toBe(channels < 3 ? 1 : 3);
            held.forEach((samples, c) => {
              for (let y = 0; y < height; y++)
                for (let x = 0; x < width; x++) {
                  const from = there(y - beyond, HEIGHT - 1) * picture.stride + there(x - beyond, WIDTH - 1);
                  if (samples[y * width + x] !== picture.planes[c][from])
                    throw new Error(`another value at ${x}, ${y}`);
                }
            });
          });
        },
      ),
      { numRuns: 25 },
    );
  });

  it('is carried on only where the picture ends', () => {
    const pixels = pixelsOf(pictureOf(WIDTH, HEIGHT, (x) => x / WIDTH));
    const size = (left: number, top: number, width: number, height: number): number[] =>
      holdGround(pixels.window({ left, top, width, height }), { beyond: 5, levels: 1 }, (ground) => [
        ...[ground.left, ground.top, ground.colours.width, ground.colours.height],
      ]);
    expect(size(3, 4, 9, 8)).toEqual([3, 4, 9, 8]);
    expect(size(14, 4, 9, 13)).toEqual([14, 4, 14, 18]);
  });

  it('has the luma of its part and its halvings, as far down as a side of 32 pixels', () => {
    const picture = pictureOf(300, 140, (x, y) => 0.3 + 0.001 * x + 0.002 * y, { depth: 16 });
    const part = pixelsOf(picture).window({ left: 11, top: 5, width: 271, height: 131 });
    holdGround(part, { beyond: 0, levels: 9 }, ({ levels }) => {
      expect(levels.map(({ width, height }) => [width, height])).toEqual([
        [271, 131],
        [136, 66],
        [68, 33],
      ]);
      const [whole, half, quarter] = levels.map((level) => ({
        ...level,
        data: lumaHeld(level).data.slice(),
      }));
      const luma = lumaOf(part.raster);
      expect(whole.data).toEqual(luma.data);
      expect(half.data).toEqual(halveLuma(luma).data);
      expect(quarter.data).toEqual(halveLuma(halveLuma(luma)).data);
    });
  });
});
