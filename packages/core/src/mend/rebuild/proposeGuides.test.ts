import { describe, expect, it } from 'vitest';
import type { CutEdge } from '../../examine/areas/edgesInto.ts';
import { edgesInto } from '../../examine/areas/edgesInto.ts';
import { wholeWindow } from '../../raster/window.ts';
import type { Point } from '../../target/target.ts';
import { pictureOf } from '../../testing/pictures.ts';
import { extendGuide } from './extendGuide.ts';
import { proposeGuides } from './proposeGuides.ts';

/** An edge that runs straight into a loss at a place. */
function edge(x: number, y: number, degrees: number, step = 0.4): CutEdge {
  const angle = (degrees * Math.PI) / 180;
  const course = [6, 16].map((away): Point => [x - away * Math.cos(angle), y - away * Math.sin(angle)]);
  return { x, y, step, angle, course };
}

describe('proposed guides', () => {
  it('join what continues, and leave alone what has no other end', () => {
    const guides = proposeGuides([
      edge(10, 50, 0),
      edge(50, 10, 90, 0.1),
      edge(90, 54, 180),
      edge(50, 90, 200),
    ]);
    expect(guides).toHaveLength(1);
    const [{ points }] = guides;
    // From known to known, past both places where the edge meets the loss.
    expect(Math.min(points[0][0], points[points.length - 1][0])).toBeLessThan(0);
    expect(Math.max(points[0][0], points[points.length - 1][0])).toBeGreaterThan(100);
    for (const [x, y] of points) if (x > 10 && x < 90) expect(Math.abs(y - 52)).toBeLessThan(4);
  });

  it('join each end once, with the one that continues it best', () => {
    const guides = proposeGuides([edge(0, 20, 0), edge(100, 20, 180), edge(0, 60, 0), edge(100, 60, 180)]);
    const levels = guides.map(({ points }) => points.map(([, y]) => Math.round(y)));
    expect(levels.map((ys) => [Math.min(...ys), Math.max(...ys)]).sort((a, b) => a[0] - b[0])).toEqual([
      [20, 20],
      [60, 60],
    ]);
  });

  it('meet in a corner where two edges stand square to one another', () => {
    // Down along x = 40 and to the left along y = 90: the corner of a frame.
    const [guide] = proposeGuides([edge(40, 50, 90), edge(80, 90, 180)]);
    const nearest = Math.min(...guide.points.map(([x, y]) => Math.hypot(x - 40, y - 90)));
    expect(nearest).toBeLessThan(0.5);
  });

  it('follow a curved edge of a picture through a hole in it', () => {
    const bank = (x: number): number => 80 + 12 * Math.sin((x - 30) / 40);
    const hole: readonly Point[] = [
      [62, 60],
      [100, 60],
      [100, 108],
      [62, 108],
    ];
    const isGone = (x: number, y: number): boolean => x > 62 && x < 100 && y > 60 && y < 108;
    const picture = pictureOf(160, 160, (x, y) => (isGone(x, y) ? 0.95 : y < bank(x) ? 0.7 : 0.3));
    const [guide] = proposeGuides(edgesInto(hole, wholeWindow(picture)));
    for (const [x, y] of guide.points)
      if (x >= 62 && x <= 100) expect(Math.abs(y - bank(x))).toBeLessThan(2.5);
  });
});

describe('a guide drawn by hand', () => {
  const bank = (x: number): number => 80 + 10 * Math.sin(x / 40);
  const shore = pictureOf(240, 160, (x, y) => (y < bank(x) ? 0.7 : 0.3));

  it('is carried on along its edge at both ends', () => {
    const drawn: Point[] = [90, 100, 110, 120, 130].map((x) => [x, bank(x)]);
    const { points } = extendGuide({ points: drawn }, wholeWindow(shore));
    expect(points[0][0]).toBeLessThan(40);
    expect(points[points.length - 1][0]).toBeGreaterThan(180);
    for (const [x, y] of points) expect(Math.abs(y - bank(x))).toBeLessThan(1.5);
  });

  it('stays as it was drawn where no edge goes on', () => {
    const points: Point[] = [
      [60, 30],
      [120, 30],
    ];
    const even = pictureOf(240, 160, (x, y) => (y < 30 && x > 55 && x < 125 ? 0.7 : 0.3));
    expect(extendGuide({ points }, wholeWindow(even)).points.length).toBeLessThan(8);
  });
});
