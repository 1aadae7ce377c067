import { describe, expect, it } from 'vitest';
import { mulberry } from '../../../random/mulberry.ts';
import { pixelsOf } from '../../../raster/pixels.ts';
import type { Raster } from '../../../raster/raster.ts';
import { wholeWindow } from '../../../raster/window.ts';
import type { Point } from '../../../target/target.ts';
import { pictureOf } from '../../../testing/pictures.ts';
import { mendFault } from '../../run/mendFault.ts';
import { fitRelief } from './fitRelief.ts';
import { RELIEF_REACH, reliefAt } from './relief.ts';
import { undoRelief } from './undoRelief.ts';

const [WIDTH, HEIGHT] = [600, 240];
const course = (x: number): number => 120 + 12 * Math.sin(x / 90);
const path = Array.from({ length: 99 }, (_, k): Point => [6 + 6 * k, course(6 + 6 * k)]);
/** The sheet is lit below its course and shaded above it. */
const lit = (away: number): number => 0.13 * Math.exp(-((away / 6.5) ** 2)) * Math.sign(away);

/** Bricks of many tones, 8 bit encoded, with a crease across them. */
function creased(strength: number): { clean: Raster; seen: Raster } {
  const uniform = mulberry(21);
  const tones = Array.from({ length: 4000 }, () => 0.25 + 0.4 * uniform());
  const brick = (x: number, y: number): number => {
    const row = Math.floor(y / 14);
    return y % 14 < 1 ? 0.3 : tones[row * 40 + Math.floor((x + 17 * (row % 2)) / 34)];
  };
  const grain = { grain: 0.008 };
  const linear = (value: number): number => value ** 2.2;
  return {
    clean: pictureOf(WIDTH, HEIGHT, brick, grain),
    seen: pictureOf(
      WIDTH,
      HEIGHT,
      (x, y) => {
        const away = y - course(x);
        if (strength > 0 && Math.abs(away) < 1.5) return 0.95;
        return (linear(brick(x, y)) * (1 + strength * lit(away))) ** (1 / 2.2);
      },
      grain,
    ),
  };
}

describe('the relief of a crease', () => {
  it('is told although every brick under it has a tone of its own', () => {
    const relief = fitRelief(path, 4, pixelsOf(creased(1).seen));
    expect(relief).toHaveLength(2 * RELIEF_REACH + 1);
    for (let away = -12; away <= 12; away++)
      if (Math.abs(away) > 2)
        expect(Math.abs(reliefAt(relief ?? [], away) - Math.log(1 + lit(away)))).toBeLessThan(0.03);
  });

  it('is none where the sheet lies flat', () => {
    expect(fitRelief(path, 4, pixelsOf(creased(0).clean))).toBeNull();
  });

  it('is undone with the crack: what lies beside the crease comes back', () => {
    const { clean, seen } = creased(1);
    const fault = { id: 'f', x: 300, y: 120, r: 1.5, softness: 0.3, polarity: 'bright', path } as const;
    const errorOf = (kind: 'crease' | 'scratch'): number => {
      const { mend } = mendFault({ ...fault, kind }, { avoid: [], used: [] }, pixelsOf(seen));
      const relief = mend.method === 'bridge' ? mend.relief : undefined;
      const { values } = relief
        ? undoRelief(relief, path, wholeWindow(seen), pixelsOf(seen).shape)
        : { values: [Float32Array.from(seen.planes[0])] };
      let [sum, count] = [0, 0];
      for (let x = 20; x < WIDTH - 20; x++)
        for (let away = -10; away <= 10; away++) {
          if (Math.abs(away) < 4) continue;
          const i = Math.round(course(x) + away) * WIDTH + x;
          sum += (values[0][i] - clean.planes[0][i]) ** 2;
          count++;
        }
      return Math.sqrt(sum / count);
    };
    expect(errorOf('crease')).toBeLessThan(0.55 * errorOf('scratch'));
  });

  it('is nothing beyond its ends', () => {
    expect(reliefAt([0.1, 0.2, 0.3], 0)).toBe(0.2);
    expect(reliefAt([0.1, 0.2, 0.3], -0.5)).toBeCloseTo(0.15, 10);
    expect(reliefAt([0.1, 0.2, 0.3], 1.5)).toBe(0);
    expect(reliefAt([0.1, 0.2, 0.3], -2)).toBe(0);
  });
});
