import type { Shift } from '@fennip/core/source';
import type { Point, Target } from '@fennip/core/target';
import { targetBounds } from '@fennip/core/target';
import type { Sight, Size } from './viewport.ts';
import { toScreen } from './viewport.ts';

/** Where a picture's places lie on the screen. */
export interface Glass {
  readonly view: Sight;
  readonly table: Size;
}

/** What lines are drawn on, seen or not. */
type Ground = CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D;

/** Four corner ticks around a place. */
export function corners(context: Ground, x: number, y: number, half: number, tick: number): void {
  context.beginPath();
  for (const [sx, sy] of [
    [-1, -1],
    [1, -1],
    [1, 1],
    [-1, 1],
  ]) {
    context.moveTo(x + sx * half, y + sy * (half - tick));
    context.lineTo(x + sx * half, y + sy * half);
    context.lineTo(x + sx * (half - tick), y + sy * half);
  }
}

/** Half the side of the mark around a spot on the screen: it stands clear of the fault and never gets too small to see. */
export const markHalf = (r: number, scale: number, room = 0): number =>
  Math.max(5, r * 1.3 * scale + 3) + room;

/** The ticks of a spot's mark. */
export function traceCorners(context: Ground, x: number, y: number, half: number): void {
  corners(context, x, y, half, Math.max(3, Math.min(9, half * 0.45)));
}

/** What lies under a line, so that it reads on any ground. */
export const UNDER_LINE = 'rgb(0 0 0 / 0.65)';

/** A line that reads on any ground: dark below, colour above. */
export function strokeTwice(
  context: Ground,
  colour: string | CanvasGradient,
  width: number,
  under: string | CanvasGradient = UNDER_LINE,
): void {
  context.lineWidth = width + 2;
  context.strokeStyle = under;
  context.stroke();
  context.lineWidth = width;
  context.strokeStyle = colour;
  context.stroke();
}

/** A run of points as a line on the screen. */
export function tracePoints(
  context: CanvasRenderingContext2D,
  { view, table }: Glass,
  points: readonly Point[],
  shift: Shift,
): void {
  context.beginPath();
  points.forEach(([x, y], i) => {
    const [sx, sy] = toScreen(view, table, x + shift.dx, y + shift.dy);
    if (i === 0) context.moveTo(sx, sy);
    else context.lineTo(sx, sy);
  });
}

const HERE: Shift = { dx: 0, dy: 0 };

/** Traces a target's own shape: ticks around a spot, the course of a stroke, the border of an area. */
export function traceTarget(
  context: CanvasRenderingContext2D,
  glass: Glass,
  target: Target,
  { room, shift = HERE }: { readonly room: number; readonly shift?: Shift },
): void {
  switch (target.shape) {
    case 'disc': {
      const [x, y] = toScreen(glass.view, glass.table, target.x + shift.dx, target.y + shift.dy);
      traceCorners(context, x, y, markHalf(target.r, glass.view.scale, room));
      return;
    }
    case 'stroke':
      tracePoints(context, glass, target.points, shift);
      return;
    case 'outline':
      tracePoints(context, glass, target.points, shift);
      context.closePath();
      return;
    case 'mask': {
      const { left, top, width, height } = targetBounds(target, 0);
      const [x, y] = toScreen(glass.view, glass.table, left + shift.dx, top + shift.dy);
      context.beginPath();
      context.rect(x, y, width * glass.view.scale, height * glass.view.scale);
    }
  }
}
