import { describe, expect, it } from 'vitest';
import { pictureOf } from '../../testing/pictures.ts';
import { pixelsOf } from '../../raster/pixels.ts';
import type { FaultKind } from '../../fault/kinds.ts';
import { examinePicture } from '../examinePicture.ts';

const [WIDTH, HEIGHT] = [480, 360];
const covered = (half: number, away: number): number => Math.min(1, Math.max(0, half + 0.5 - Math.abs(away)));

/** The kinds of what is found of lines on a grey sheet. @param at light of the sheet there */
const kindsOn = (at: (x: number, y: number) => number): FaultKind[] =>
  examinePicture(pixelsOf(pictureOf(WIDTH, HEIGHT, at, { grain: 0.006, seed: 4 })))
    .filter(({ path }) => path !== undefined)
    .map(({ kind }) => kind);

describe('the kind of a line', () => {
  it('is a tear where it gapes at the edge of the sheet and closes inside it', () => {
    const half = (x: number): number => (x < 190 ? 0.8 + 3.4 * (1 - x / 190) : 0);
    expect(kindsOn((x, y) => 0.35 + 0.45 * (x < 190 ? covered(half(x), y - 180 - 0.1 * x) : 0))).toContain(
      'tear',
    );
  });

  it('is a crease where the sheet is shaded on one side of it and lit on the other', () => {
    const folded = (x: number, y: number): number => {
      const away = y - 170 - 0.12 * x;
      const relief = 0.05 * Math.exp(-((away / 6.5) ** 2)) * Math.sign(away);
      return 0.4 * (1 + relief) + 0.4 * covered(1, away);
    };
    expect(kindsOn(folded)).toContain('crease');
  });

  it('is a scratch where it is as wide at the edge as inside, and as bright on both sides', () => {
    for (const length of [190, WIDTH]) {
      const kinds = kindsOn((x, y) => 0.38 + 0.42 * (x < length ? covered(1, y - 180 - 0.1 * x) : 0));
      expect(kinds.length).toBeGreaterThan(0);
      expect(new Set(kinds)).toEqual(new Set(['scratch']));
    }
  });
});
