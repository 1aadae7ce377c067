import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { levelPlane } from './levelPlane.ts';
import type { Orientation } from './sensor.ts';
import { onPicture, onSensor, placeOnSensor, rectOnPicture, sensorOf } from './sensor.ts';

const orientation = fc.integer({ min: 1, max: 8 }) as fc.Arbitrary<Orientation>;
const side = fc.integer({ min: 20, max: 6000 });
const share = fc.double({ min: 0, max: 1, noNaN: true });

describe('a place on a sensor', () => {
  it('goes to the picture and back, however the camera was held, and whatever the picture’s size', () => {
    fc.assert(
      fc.property(orientation, side, side, side, side, share, share, (held, w, h, width, height, u, v) => {
        const placement = placeOnSensor({ width: w, height: h }, held, { width, height });
        const [x, y] = onSensor(u * w, v * h, placement);
        const [px, py] = onPicture(x, y, placement);
        expect(px).toBeCloseTo(u * w, 6);
        expect(py).toBeCloseTo(v * h, 6);
        // All of the picture lies on the sensor.
        expect(x).toBeGreaterThanOrEqual(-1e-6);
        expect(y).toBeGreaterThanOrEqual(-1e-6);
        expect(x).toBeLessThanOrEqual(width + 1e-6);
        expect(y).toBeLessThanOrEqual(height + 1e-6);
      }),
    );
  });

  it('is where Exif 2.32 says: stored rows and columns are the upright picture’s sides', () => {
    // Exif, tag Orientation: where the stored first row and first column lie in the upright picture.
    const corner: Record<Orientation, readonly [top: 'start' | 'end', left: 'start' | 'end']> = {
      ...{ 1: ['start', 'start'], 2: ['start', 'end'], 3: ['end', 'end'], 4: ['end', 'start'] },
      ...{ 5: ['start', 'start'], 6: ['start', 'end'], 7: ['end', 'end'], 8: ['end', 'start'] },
    };
    for (const held of [1, 2, 3, 4, 5, 6, 7, 8] as const) {
      const upright = held < 5 ? { width: 60, height: 40 } : { width: 40, height: 60 };
      const placement = placeOnSensor(upright, held, { width: 60, height: 40 });
      // The first stored pixel.
      const [x, y] = onPicture(0.5, 0.5, placement);
      const [top, left] = corner[held];
      expect(y < upright.height / 2 ? 'start' : 'end').toBe(top);
      expect(x < upright.width / 2 ? 'start' : 'end').toBe(left);
    }
  });

  it('is taken from the middle where a camera crops, and from all where it writes smaller files', () => {
    const sensor = { width: 6000, height: 4000 };
    expect(placeOnSensor({ width: 3000, height: 2000 }, 1, sensor)).toMatchObject({
      scale: 0.5,
      left: 0,
      top: 0,
    });
    expect(placeOnSensor({ width: 6000, height: 3375 }, 1, sensor)).toMatchObject({ scale: 1, top: 312.5 });
    expect(placeOnSensor({ width: 2000, height: 3000 }, 6, sensor)).toMatchObject({
      scale: 0.5,
      left: 0,
      top: 0,
    });
    expect(
      sensorOf([
        { shape: { width: 4000, height: 6000 }, orientation: 8 },
        { shape: { width: 3000, height: 2000 }, orientation: 1 },
      ]),
    ).toEqual(sensor);
  });

  it('holds the same pixel in a picture that is turned back', () => {
    fc.assert(
      fc.property(orientation, (held) => {
        const upright = { width: 7, height: 5 };
        const values = Float32Array.from({ length: 35 }, (_, i) => i);
        const level = levelPlane(values, upright, held, new Float32Array(35));
        const columns = held < 5 ? 7 : 5;
        const sensor = held < 5 ? upright : { width: 5, height: 7 };
        const placement = placeOnSensor(upright, held, sensor);
        for (let i = 0; i < 35; i++) {
          const [x, y] = onPicture((i % columns) + 0.5, Math.floor(i / columns) + 0.5, placement);
          expect(level[i]).toBe(values[Math.floor(y) * 7 + Math.floor(x)]);
        }
      }),
    );
  });

  it('maps a rectangle to one that holds all of it', () => {
    const placement = placeOnSensor({ width: 400, height: 600 }, 6, { width: 600, height: 400 });
    const rect = rectOnPicture({ left: 10, top: 20, width: 30, height: 40 }, placement);
    expect(rect).toMatchObject({ width: 40, height: 30 });
  });
});
