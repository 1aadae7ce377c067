import { halveRaster } from '../../raster/pyramid.ts';
import type { Raster } from '../../raster/raster.ts';
import { valuesOf } from '../../raster/values.ts';
import type { FloatPlane } from '../../raster/float.ts';
import { connectedPart } from '../../target/connectedPart.ts';
import { pixelRings } from '../../target/pixelRings.ts';
import { signedArea } from '../../target/signedArea.ts';
import type { Point } from '../../target/target.ts';
import { floodGround } from './floodGround.ts';
import { measureGround } from './scanGround.ts';
import type { PieceBorder } from './traceBorder.ts';
import { traceBorder } from './traceBorder.ts';

/** Pieces are parted from the ground on a scan no longer than this, in pixels. */
const LONGEST = 1800;
/** A piece covers at least this share of the scan. */
const LEAST_SHARE = 0.002;
/** A hole of a piece covers at least this share of it: smaller ones are damage. */
const LEAST_HOLE = 0.001;

/** A piece of a print on a scan. */
export interface FoundPiece extends PieceBorder {
  /** Holes that show the ground, in pixels of the scan. */
  readonly holes: readonly (readonly Point[])[];
  /** What it covers, in square pixels. */
  readonly area: number;
}

const planesOf = (raster: Raster): FloatPlane[] =>
  valuesOf(raster).map((data) => ({ width: raster.width, height: raster.height, data }));

/**
 * Finds the pieces of torn prints on a scan and traces their borders.
 *
 * @param scan encoded values, 8 or 16 bit: pieces that lie apart on a plain ground, white, grey or black, with shadows around them
 * @returns the pieces, largest first; none where all of the scan is ground
 */
export function findPieces(scan: Raster): FoundPiece[] {
  let [small, scale] = [scan, 1];
  while (Math.max(small.width, small.height) > LONGEST) [small, scale] = [halveRaster(small), 2 * scale];
  const { width, height } = small;
  const { isLike, away } = measureGround(planesOf(small));
  const isPiece = floodGround({ width, height, isLike, away }).map((is) => 1 - is);
  const seen = new Uint8Array(isPiece.length);
  const parts: number[][] = [];
  for (let i = 0; i < isPiece.length; i++)
    if (isPiece[i] && !seen[i]) parts.push(connectedPart(i, isPiece, seen, width));
  const channels = planesOf(scan);
  return parts
    .filter(({ length }) => length >= LEAST_SHARE * width * height)
    .map((part): FoundPiece => {
      const { outer, holes } = pixelRings(part, width);
      const border = traceBorder(channels, outer, scale);
      const area = Math.abs(signedArea(border.paper));
      const large = holes.filter((ring) => Math.abs(signedArea(ring)) * scale * scale >= LEAST_HOLE * area);
      return { ...border, holes: large.map((ring) => traceBorder(channels, ring, scale).paper), area };
    })
    .sort((a, b) => b.area - a.area);
}
