import type { Pending } from './pending.ts';
import type { Glass } from './drawTarget.ts';
import { corners, strokeTwice, tracePoints } from './drawTarget.ts';
import { toScreen } from './viewport.ts';

/** A line as the pen drew it. */
export function drawCourse(
  context: CanvasRenderingContext2D,
  glass: Glass,
  points: readonly { readonly x: number; readonly y: number }[],
  colour: string,
): void {
  tracePoints(
    context,
    glass,
    points.map(({ x, y }) => [x, y]),
    { dx: 0, dy: 0 },
  );
  strokeTwice(context, colour, 1.25);
}

/** What is being drawn: the course of the pen with its width at the end, a border, or a frame around marks. */
export function drawPending(
  context: CanvasRenderingContext2D,
  glass: Glass,
  pending: Pending,
  colour: string,
): void {
  switch (pending.kind) {
    case 'pen': {
      drawCourse(context, glass, pending.points, colour);
      const end = pending.points[pending.points.length - 1];
      drawBrush(
        context,
        ...toScreen(glass.view, glass.table, end.x, end.y),
        pending.radius * glass.view.scale,
        colour,
      );
      return;
    }
    case 'course':
    case 'outline': {
      drawCourse(context, glass, pending.points, colour);
      const [first] = pending.points;
      corners(context, ...toScreen(glass.view, glass.table, first.x, first.y), 5, 4);
      strokeTwice(context, colour, 1.25);
      return;
    }
    case 'frame': {
      const [left, top] = toScreen(glass.view, glass.table, pending.from.x, pending.from.y);
      const [right, bottom] = toScreen(glass.view, glass.table, pending.to.x, pending.to.y);
      context.beginPath();
      context.rect(left, top, right - left, bottom - top);
      strokeTwice(context, colour, 1);
    }
  }
}

/** The mark of the mend to come, under the pointer. */
export function drawBrush(
  context: CanvasRenderingContext2D,
  x: number,
  y: number,
  half: number,
  colour: string,
): void {
  corners(context, x, y, Math.max(3, half), Math.max(2, half * 0.4));
  strokeTwice(context, colour, 1.5);
}
