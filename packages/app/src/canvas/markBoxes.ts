import type { LedgerEntry } from '@fennip/core/ledger';
import type { Point } from '@fennip/core/target';
import { targetBounds } from '@fennip/core/target';
import type { MarkScene } from './drawMark.ts';
import { hasNumber, shownTarget, tagPlace } from './drawMark.ts';
import { markHalf } from './drawTarget.ts';
import { toScreen } from './viewport.ts';

/** A part of the screen, in whole pixels of it. */
export interface Box {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

/** Room that a number takes on the screen, in pixels. */
const NUMBER_ROOM = { width: 60, height: 16 };
/** How far a mark's line and the ticks of a chosen one reach beyond its shape, in screen pixels. */
const LINE_ROOM = 8;
/** So many points of a line share a box: it winds past many other marks that do not change with it. */
const RUN = 6;

function boxOf(scene: MarkScene, points: readonly Point[], room: number): Box {
  const places = points.map(([x, y]) => toScreen(scene.view, scene.table, x, y));
  const [xs, ys] = [places.map(([x]) => x), places.map(([, y]) => y)];
  return {
    left: Math.floor(Math.min(...xs) - room),
    top: Math.floor(Math.min(...ys) - room),
    right: Math.ceil(Math.max(...xs) + room),
    bottom: Math.ceil(Math.max(...ys) + room),
  };
}

export const boxAround = (boxes: readonly Box[]): Box => ({
  left: Math.min(...boxes.map(({ left }) => left)),
  top: Math.min(...boxes.map(({ top }) => top)),
  right: Math.max(...boxes.map(({ right }) => right)),
  bottom: Math.max(...boxes.map(({ bottom }) => bottom)),
});

/** Boxes along a line, neighbours of which share a point. */
const alongLine = (scene: MarkScene, points: readonly Point[]): Box[] =>
  points.flatMap((_, i) =>
    i % RUN === 0 && (i === 0 || i + 1 < points.length)
      ? [boxOf(scene, points.slice(i, i + RUN + 1), LINE_ROOM)]
      : [],
  );

function shapeBoxes(scene: MarkScene, entry: LedgerEntry): Box[] {
  const target = shownTarget(entry, scene);
  switch (target.shape) {
    case 'disc': {
      const room = markHalf(target.r, scene.view.scale, LINE_ROOM);
      return [boxOf(scene, [[target.x, target.y]], room)];
    }
    case 'stroke':
      return alongLine(scene, target.points);
    case 'outline':
      return alongLine(scene, [...target.points, target.points[0]]);
    case 'mask': {
      const { left, top, width, height } = targetBounds(target, 0);
      const corners: Point[] = [
        [left, top],
        [left + width, top],
        [left, top + height],
        [left + width, top + height],
      ];
      return [boxOf(scene, corners, LINE_ROOM)];
    }
  }
}

/** The parts of the screen that an entry's mark and its number take up. */
export function markBoxes(scene: MarkScene, entry: LedgerEntry): Box[] {
  const { width, height } = scene.table;
  const [x, y] = tagPlace(scene, shownTarget(entry, scene), entry, { dx: 0, dy: 0 });
  const [left, top] = [Math.floor(x), Math.floor(y - NUMBER_ROOM.height)];
  const number: Box = { left, top, right: left + NUMBER_ROOM.width, bottom: Math.ceil(y + 1) };
  return [...shapeBoxes(scene, entry), ...(hasNumber(scene, entry) ? [number] : [])].filter(
    (box) => box.right > 0 && box.bottom > 0 && box.left < width && box.top < height,
  );
}
