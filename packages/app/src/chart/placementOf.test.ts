import { onPicture, onSensor } from '@fennip/core/chart';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pictureSheet } from '../testing/pictureSheet.ts';
import { placementOf, takenBy } from './placementOf.ts';

const SENSOR = { width: 6000, height: 4000 };
const pictureOf = (width: number, height: number, orientation = 1) => ({
  ...pictureSheet().picture,
  ...{ width, height, capture: { orientation } },
});

describe('where a picture lies on its sensor', () => {
  it('is all of it for a frame as large as the sensor, pixel for pixel', () => {
    const placement = placementOf(pictureOf(6000, 4000), SENSOR);
    expect(placement).toMatchObject({ left: 0, top: 0, scale: 1 });
  });

  it('is all of it for a smaller copy', () => {
    expect(placementOf(pictureOf(3000, 2000), SENSOR)).toMatchObject({ left: 0, top: 0 });
  });

  it('takes a place of the picture to the sensor and back, however the camera was held', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(1, 3, 6, 8),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (orientation, u, v) => {
          const isTurned = orientation >= 5;
          const [width, height] = isTurned ? [2000, 3000] : [3000, 2000];
          const placement = placementOf(pictureOf(width, height, orientation), SENSOR);
          const [x, y] = [u * width, v * height];
          const there = onSensor(x, y, placement);
          const back = onPicture(...there, placement);
          expect(back[0]).toBeCloseTo(x, 6);
          expect(back[1]).toBeCloseTo(y, 6);
        },
      ),
    );
  });

  it('is what its own dust says, where that was found out', () => {
    const part = { sensor: SENSOR, orientation: 1, left: 500, top: 300, scale: 1 } as const;
    const picture = { ...pictureOf(3000, 2000), sensorPart: part };
    expect(takenBy(picture).part).toEqual(part);
    expect(placementOf(picture, SENSOR)).toMatchObject({ left: 500, top: 300, scale: 1 });
  });
});
