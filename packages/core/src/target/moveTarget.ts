import type { Point, Target } from './target.ts';

interface Vector {
  readonly dx: number;
  readonly dy: number;
}

const moveAll = (points: readonly Point[], { dx, dy }: Vector): Point[] =>
  points.map(([x, y]) => [x + dx, y + dy]);

/** The target at another place, in pixels; a mask moves by whole ones. */
export function movedTarget(target: Target, shift: Vector): Target {
  switch (target.shape) {
    case 'disc':
      return { ...target, x: target.x + shift.dx, y: target.y + shift.dy };
    case 'stroke':
    case 'outline':
      return { ...target, points: moveAll(target.points, shift) };
    case 'mask':
      return {
        ...target,
        left: target.left + Math.round(shift.dx),
        top: target.top + Math.round(shift.dy),
      };
  }
}
