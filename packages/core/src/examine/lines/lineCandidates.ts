import type { Rect } from '../../raster/rect.ts';
import { growRect, holdsPoint } from '../../raster/rect.ts';
import type { HeldGround } from '../ground/heldGround.ts';
import type { HeldLuma } from '../ground/heldLuma.ts';
import { holdSmooth } from '../ground/heldLuma.ts';
import { onLevel } from '../ground/onLevel.ts';
import type { LinePoints } from './heldRidges.ts';
import { holdRidges } from './heldRidges.ts';
import type { JoinedPath } from './joinPaths.ts';
import { joinPaths } from './joinPaths.ts';
import type { MeasuredLine } from './lineTraits.ts';
import { NEIGHBOURHOOD, measureLines } from './lineTraits.ts';
import { linkRidges } from './linkRidges.ts';

/** How far the middle of a line may lie from where its neighbours are counted, beyond their distance, in pixels of a level. */
const MIDDLES_APART = 8;

/** Whether a path counts for lines in a part of a level: its middle lies in there or so near that it may be their neighbour. */
function countsFor({ points }: JoinedPath, { x, y }: LinePoints, part: Rect): boolean {
  const k = points[points.length >> 1];
  return holdsPoint(part, x[k], y[k]);
}

/**
 * Everything that runs like a line, measured, with nothing decided.
 *
 * @param which of its levels are looked at, the finest first
 * @param asked where lines are asked for, in pixels of the first level; their neighbours are among them, and others are not
 */
export function lineCandidates(
  { levels, colours }: HeldGround,
  which: readonly number[],
  asked: Rect | null = null,
): MeasuredLine[] {
  return which.flatMap((level, coarser) => {
    // A small picture has no coarse ones.
    if (level >= levels.length) return [];
    const plane = levels[level];
    const near = asked && growRect(onLevel(asked, level), NEIGHBOURHOOD + MIDDLES_APART);
    return holdTwiceSmooth(plane, (smooth) =>
      holdRidges(smooth, (ridges) => {
        const paths = joinPaths(linkRidges(ridges), ridges);
        const counting = near ? paths.filter((path) => countsFor(path, ridges, near)) : paths;
        return measureLines(counting, ridges, plane, { level, coarser }, colours);
      }),
    );
  });
}

/** Lines of one to three pixels answer on a plane that is blurred by about a pixel. */
function holdTwiceSmooth<T>(plane: HeldLuma, work: (smooth: HeldLuma) => T): T {
  const whole = { left: 0, top: 0, width: plane.width, height: plane.height };
  return holdSmooth(plane, whole, (once) => holdSmooth(once, whole, work));
}
