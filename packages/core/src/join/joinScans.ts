import { RasterError } from '../errors.ts';
import type { Raster } from '../raster/raster.ts';
import type { Point } from '../target/target.ts';
import { simplifyOutline } from '../target/simplifyOutline.ts';
import type { AssembledPiece, Assembly } from './assembly.ts';
import { matchTones } from './compose/matchTones.ts';
import { squareUp } from './compose/squareUp.ts';
import { layPieces } from './fit/layPieces.ts';
import type { Placement } from './fit/placement.ts';
import { after } from './fit/placement.ts';
import { tornCourseOf } from './fit/tornCourse.ts';
import { findPieces } from './pieces/findPieces.ts';

/** Steps of straight borders that a picture is squared by, in pixels. */
const STEP = 3;
/** An outline is kept with as few corners as it needs to stray by at most so much, in pixels. */
const TOLERANCE = 0.05;
/** Numbers of an assembly are kept to so many parts of a pixel, of a radian and of one. */
const PARTS = { point: 100, place: 1000, angle: 1e7, gain: 1e4, confidence: 1e3 };

const roundTo = (value: number, parts: number): number => Math.round(parts * value) / parts;

/** An outline as it is kept. */
const kept = (points: readonly Point[]): Point[] =>
  simplifyOutline(points, TOLERANCE).map(([x, y]) => [roundTo(x, PARTS.point), roundTo(y, PARTS.point)]);

const keptPlacement = ({ angle, dx, dy }: Placement): Placement => ({
  angle: roundTo(angle, PARTS.angle),
  dx: roundTo(dx, PARTS.place),
  dy: roundTo(dy, PARTS.place),
});

/** @throws RasterError where scans differ in depth or channels */
function checkAlike([first, ...others]: readonly Raster[]): void {
  for (const other of others)
    if (other.depth !== first.depth || other.planes.length !== first.planes.length)
      throw new RasterError(
        `the scans differ: ${first.planes.length} channels of ${first.depth} bit and ${other.planes.length} of ${other.depth}`,
      );
}

/**
 * Finds the pieces of a torn print on its scans, lays them beside one another and squares the picture they make.
 *
 * @param scans encoded values, of the same resolution, depth and channels
 * @returns null where no piece was found; a piece that fits nowhere has no placement. Its numbers are rounded as a document
 *   keeps them, so that what is rendered from it is the same.
 * @throws RasterError where scans differ in depth or channels
 */
export function joinScans(scans: readonly Raster[]): Assembly | null {
  checkAlike(scans);
  const found = scans.flatMap((raster, scan) => findPieces(raster).map((piece) => ({ scan, piece })));
  if (found.length === 0) return null;
  const { placements, joins } = layPieces(found.map(({ piece }) => piece));
  const courses = found.flatMap(({ piece }, k) => {
    const placement = placements[k];
    return placement ? [{ ...tornCourseOf(piece, STEP), placement }] : [];
  });
  const { move, width, height } = squareUp(courses);
  const pieces = found.map(({ scan, piece: { paper, picture, holes } }, k): AssembledPiece => {
    const placement = placements[k];
    return {
      ...{ scan, paper: kept(paper), picture: kept(picture), holes: holes.map(kept) },
      placement: placement && keptPlacement(after(placement, move)),
    };
  });
  const gains = scans.length > 1 ? matchTones(scans, pieces, joins) : null;
  return {
    ...{ width, height },
    pieces: pieces.map((piece) => ({
      ...piece,
      ...(gains ? { gain: gains[piece.scan].map((gain) => roundTo(gain, PARTS.gain)) } : {}),
    })),
    joins: joins.map(({ pieces: pair, confidence, length, misfit }) => ({
      pieces: pair,
      confidence: roundTo(confidence, PARTS.confidence),
      length: roundTo(length, PARTS.point),
      misfit: roundTo(misfit, PARTS.place),
    })),
  };
}
