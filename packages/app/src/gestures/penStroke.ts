import type { PenPoint } from '../canvas/penPoint.ts';
import type { DiscTarget, OutlineTarget, Point, StrokeTarget } from '@fennip/core/target';
import { signedArea } from '@fennip/core/target';
import { LazyBrush } from 'lazy-brush';
import simplify from 'simplify-js';

/** The line lags behind the pen by this many screen pixels, which takes the tremor out of it. */
const SMOOTHING = 3;
/** The kept line strays from the drawn one by at most this many screen pixels. */
const TOLERANCE = 0.35;

/** A line while it is drawn. */
export interface PenStroke {
  add(point: PenPoint): void;
  /** The line so far, ending where the pen is. */
  points(): PenPoint[];
}

/** @param scale screen pixels to one of the picture */
export function startStroke(first: PenPoint, scale: number): PenStroke {
  const brush = new LazyBrush({ radius: SMOOTHING / scale, enabled: true, initialPoint: first });
  const drawn: PenPoint[] = [first];
  let pen = first;
  return {
    add(point) {
      pen = point;
      if (!brush.update(point)) return;
      const { x, y } = brush.getBrushCoordinates();
      const last = drawn[drawn.length - 1];
      if (Math.hypot(x - last.x, y - last.y) > 0.25 / scale) drawn.push({ x, y, pressure: point.pressure });
    },
    points: () => (drawn.length > 1 || pen !== first ? [...drawn, pen] : drawn),
  };
}

/** The same line with as few points as it needs. */
export const fewestPoints = (points: readonly PenPoint[], scale: number): PenPoint[] =>
  simplify([...points], TOLERANCE / scale, true) as PenPoint[];

const round = (value: number): number => Math.round(value * 100) / 100;
/** A place of the pen as a point of the recipe, in hundredths of a pixel. */
export const asPoint = ({ x, y }: PenPoint): Point => [round(x), round(y)];

/** What a drawn line is aimed at: a disc where the pen only touched, else a stroke. */
export function penTarget(
  points: readonly PenPoint[],
  radius: number,
  withPressure: boolean,
): DiscTarget | StrokeTarget {
  if (points.length === 1) return { shape: 'disc', x: round(points[0].x), y: round(points[0].y), r: radius };
  const pressure = points.map((point) => Math.max(0.05, round(point.pressure)));
  const isEven = pressure.every((one) => one === pressure[0]);
  return {
    shape: 'stroke',
    points: points.map(asPoint),
    width: 2 * radius * (withPressure && isEven ? pressure[0] : 1),
    ...(withPressure && !isEven ? { pressure } : {}),
  };
}

/** The inside of a drawn line; null where it holds none. */
export function outlineTarget(points: readonly PenPoint[]): OutlineTarget | null {
  const corners = points.map(asPoint);
  return corners.length >= 3 && Math.abs(signedArea(corners)) >= 1
    ? { shape: 'outline', points: corners }
    : null;
}
