import { signedArea } from '../../target/signedArea.ts';
import type { Point } from '../../target/target.ts';

/** A place on the border of an area. */
export interface BorderPlace {
  readonly x: number;
  readonly y: number;
  /** Unit vector outwards. */
  readonly nx: number;
  readonly ny: number;
}

/** Places one pixel apart along a closed border. */
export function borderPlaces(outline: readonly Point[]): BorderPlace[] {
  const out = signedArea(outline) > 0 ? 1 : -1;
  return outline.flatMap(([ax, ay], i) => {
    const [bx, by] = outline[(i + 1) % outline.length];
    const length = Math.hypot(bx - ax, by - ay);
    if (length === 0) return [];
    const [nx, ny] = [(out * (by - ay)) / length, (-out * (bx - ax)) / length];
    const count = Math.max(1, Math.round(length));
    return Array.from({ length: count }, (_, k) => ({
      ...{ x: ax + (k / count) * (bx - ax), y: ay + (k / count) * (by - ay) },
      ...{ nx, ny },
    }));
  });
}
