import { fbm2, noise2 } from '../render/noise.ts';

/**
 * One tear through a print: a line across it that wanders. The picture's layer tears along one course, the paper under it
 * along another that lies beside it by turns on either side: between the two white fibre shows on one of the pieces.
 */
export interface Tear {
  /** A point that the straight line passes through, its direction and its normal, in pixels of the print. */
  readonly x: number;
  readonly y: number;
  readonly angle: number;
  /** How far the course wanders from the line at most, about, in pixels. */
  readonly wander: number;
  /** How wide the fibre is at most, in pixels. */
  readonly fibre: number;
  readonly seed: number;
}

/** How far a place lies from a tear, in pixels of the print; what is above 0 belongs to one side. */
export interface TearDistance {
  /** From the course of the picture's layer. */
  readonly picture: number;
  /** From the course of the paper. */
  readonly paper: number;
}

/** The course's distance from its line, at a place along it, in pixels: long bends, and bites as small as paper's fibres. */
function wanderAt({ wander, seed }: Tear, along: number): number {
  const long = noise2(along / (6 * wander + 40), 0.5, seed) - 0.5;
  const bends = fbm2(along / (1.2 * wander + 12), 7.5, 4, seed + 10) - 0.47;
  const bites = fbm2(along / 6, 3.5, 2, seed + 20) - 0.37;
  return wander * (1.6 * long + 0.7 * bends) + 1.5 * bites;
}

/** Where the paper tore, beside the course of the picture's layer, in pixels: on one side or the other, and ragged. */
function fibreAt({ fibre, seed }: Tear, along: number): number {
  if (fibre === 0) return 0;
  const side = noise2(along / (12 * fibre + 30), 11.5, seed + 30) - 0.5;
  const ragged = fbm2(along / 3, 2.5, 3, seed + 40) - 0.43;
  return fibre * Math.max(-1, Math.min(1, 3.2 * side + 0.5 * ragged));
}

/** Where a place of the print lies to a tear. @param x in pixels of the print, as y */
export function tearDistance(tear: Tear, x: number, y: number): TearDistance {
  const [dx, dy] = [x - tear.x, y - tear.y];
  const [cos, sin] = [Math.cos(tear.angle), Math.sin(tear.angle)];
  const along = dx * cos + dy * sin;
  const picture = dy * cos - dx * sin - wanderAt(tear, along);
  return { picture, paper: picture - fibreAt(tear, along) };
}

/** A place on the course of a tear, at a distance along its line, in pixels of the print. */
export function placeOnTear(tear: Tear, along: number): { readonly x: number; readonly y: number } {
  const [cos, sin] = [Math.cos(tear.angle), Math.sin(tear.angle)];
  const off = wanderAt(tear, along);
  return { x: tear.x + along * cos - off * sin, y: tear.y + along * sin + off * cos };
}
