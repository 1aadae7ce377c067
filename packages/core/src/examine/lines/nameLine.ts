import type { PictureShape } from '../../raster/raster.ts';
import type { FaultKind } from '../../fault/kinds.ts';
import type { HeldGround } from '../ground/heldGround.ts';
import { lumaHeld } from '../ground/heldLuma.ts';
import type { LinePoint } from './joinPaths.ts';
import type { LineProfile } from './lineProfile.ts';
import { lineProfile } from './lineProfile.ts';
import type { MeasuredLine } from './lineTraits.ts';
import { LINE_TRAITS, linePath } from './lineTraits.ts';

const TURNING = LINE_TRAITS.indexOf('turning');
/** Fibres curl: they turn by at least so much a pixel, in radians. */
export const CURLED = 0.035;
/** Shorter than this a line is neither a crease nor a tear, as shares of the picture's shorter side. */
const LEAST = { crease: 0.25, tear: 0.08 };
/** A fold shades the sheet on one side and lights it on the other: by so much, in logarithms of luma, and so surely. */
const RELIEF = { least: 0.02, most: 0.15, sureness: 4 };
/** A tear begins at the edge of the sheet, or where a print's white margin ends: a share of the shorter side. */
const EDGE = 0.05;
/** It gapes there by at least so many pixels, and by so many times as at its point. */
const GAPE = { width: 5, times: 1.7 };

/** How far a place lies from the nearest edge of the picture, as a share of the shorter side. */
const fromEdge = (x: number, y: number, { width, height }: PictureShape): number =>
  Math.min(x, y, width - x, height - y) / Math.min(width, height);

function isTear(
  path: readonly LinePoint[],
  { startWidth, endWidth }: LineProfile,
  { left, top, picture }: HeldGround,
): boolean {
  const [start, end] = [path[0], path[path.length - 1]].map(([x, y]) => fromEdge(left + x, top + y, picture));
  const [atEdge, inside] = start < end ? [startWidth, endWidth] : [endWidth, startWidth];
  return (
    Math.min(start, end) < EDGE &&
    Math.max(start, end) >= EDGE &&
    atEdge >= GAPE.width &&
    atEdge >= GAPE.times * inside
  );
}

const isCrease = ({ relief, reliefSureness }: LineProfile): boolean =>
  Math.abs(relief) >= RELIEF.least && Math.abs(relief) <= RELIEF.most && reliefSureness >= RELIEF.sureness;

/** What a line is taken for. */
export interface NamedLine {
  readonly kind: FaultKind;
  /** Full width in pixels; of a tear where it gapes. */
  readonly width: number;
}

/**
 * What kind of flaw a line is, from what was measured of it. A tear gapes at the edge of the sheet and closes towards its
 * point; along a crease the sheet is shaded on one side and lit on the other; dark lines that curl lie on the glass; all
 * others run through the picture itself. The bounds were found on the demo's print and on seeded scratches over open
 * photographs: there they tell its two tears and its crease from 22 scratches, and take 2 of 95 laid scratches for tears.
 */
export function nameLine(line: MeasuredLine, ground: HeldGround): NamedLine {
  const { polarity, traits, length, width } = line;
  if (polarity === 'dark' && traits[TURNING] >= CURLED) return { kind: 'fibre', width };
  const shorter = Math.min(ground.picture.width, ground.picture.height);
  if (length < LEAST.tear * shorter) return { kind: 'scratch', width };
  // Beyond the edge of the picture a line is its own mirror image.
  const path = linePath(line).filter(
    ([x, y]) => fromEdge(ground.left + x, ground.top + y, ground.picture) >= 0,
  );
  const profile =
    path.length > 1
      ? lineProfile(lumaHeld(ground.levels[0]), path, width, polarity === 'dark' ? 1 : -1)
      : null;
  if (!profile) return { kind: 'scratch', width };
  if (isTear(path, profile, ground))
    return { kind: 'tear', width: Math.max(profile.startWidth, profile.endWidth) };
  const isFolded = length >= LEAST.crease * shorter && isCrease(profile);
  return { kind: isFolded ? 'crease' : 'scratch', width };
}
