import { mulberry } from '@fennip/core/random';
import type { Tear } from './tear.ts';
import { placeOnTear, tearDistance } from './tear.ts';

/** One side of one tear. */
interface Side {
  readonly tear: Tear;
  readonly sign: 1 | -1;
}

/** A part of a torn print: what lies on its side of each of its tears. */
export interface TornPiece {
  readonly sides: readonly Side[];
}

/** A crumb that is lost: a small round part of all pieces, in pixels of the print. */
export interface Crumb {
  readonly x: number;
  readonly y: number;
  readonly r: number;
}

/** A print that is torn. */
export interface TornPrint {
  readonly width: number;
  readonly height: number;
  readonly pieces: readonly TornPiece[];
  readonly crumbs: readonly Crumb[];
}

export interface TearOptions {
  readonly pieces: number;
  /** How wide white fibre is at most, in pixels. */
  readonly fibre: number;
  readonly crumbs: number;
  readonly seed: number;
}

/** What of a piece lies at a place of the print, as shares of a pixel. */
export interface PieceCover {
  /** Its paper or its picture. */
  readonly whole: number;
  /** Its picture. */
  readonly picture: number;
}

const share = (distance: number): number => Math.max(0, Math.min(1, 0.5 + distance));

/** What of a piece lies at a place of the print, in its pixels. */
export function coverOf(
  { width, height, crumbs }: TornPrint,
  piece: TornPiece,
  x: number,
  y: number,
): PieceCover {
  const inside = Math.min(share(x), share(width - x), share(y), share(height - y));
  let [whole, picture] = [inside, inside];
  for (const { tear, sign } of piece.sides) {
    if (whole === 0) break;
    const away = tearDistance(tear, x, y);
    picture = Math.min(picture, share(sign * away.picture));
    whole = Math.min(whole, share(Math.max(sign * away.picture, sign * away.paper)));
  }
  for (const crumb of crumbs) {
    const outside = share(Math.hypot(x - crumb.x, y - crumb.y) - crumb.r);
    picture = Math.min(picture, outside);
    whole = Math.min(whole, outside);
  }
  return { whole, picture };
}

/** About how large a piece is and where its middle lies, from a coarse grid. */
function extentOf(
  print: TornPrint,
  piece: TornPiece,
): { area: number; x: number; y: number; spread: number } {
  const step = Math.max(print.width, print.height) / 80;
  let [area, sx, sy, sxx, sxy, syy] = [0, 0, 0, 0, 0, 0];
  for (let y = step / 2; y < print.height; y += step)
    for (let x = step / 2; x < print.width; x += step) {
      if (coverOf(print, piece, x, y).whole < 0.5) continue;
      area++;
      sx += x;
      sy += y;
      sxx += x * x;
      sxy += x * y;
      syy += y * y;
    }
  const [mx, my] = [sx / area, sy / area];
  const [vxx, vxy, vyy] = [sxx / area - mx * mx, sxy / area - mx * my, syy / area - my * my];
  return { area: area * step * step, x: mx, y: my, spread: 0.5 * Math.atan2(2 * vxy, vxx - vyy) };
}

/** Tears a print: the largest piece is torn again until there are as many as asked for, each time about across its long way. */
export function tearPrint(
  width: number,
  height: number,
  { pieces: count, fibre, crumbs, seed }: TearOptions,
): TornPrint {
  const uniform = mulberry(seed);
  const print = { width, height, crumbs: [] as Crumb[] };
  let pieces: TornPiece[] = [{ sides: [] }];
  const tears: Tear[] = [];
  while (pieces.length < count) {
    const sized = pieces.map((piece) => ({ piece, extent: extentOf({ ...print, pieces }, piece) }));
    sized.sort((a, b) => b.extent.area - a.extent.area);
    const [{ piece, extent }] = sized;
    const reach = Math.sqrt(extent.area);
    const tear: Tear = {
      x: extent.x + 0.12 * reach * (uniform() - 0.5),
      y: extent.y + 0.12 * reach * (uniform() - 0.5),
      angle: extent.spread + Math.PI / 2 + 0.7 * (uniform() - 0.5),
      wander: (0.05 + 0.06 * uniform()) * reach,
      fibre: fibre * (0.5 + 0.5 * uniform()),
      seed: Math.floor(uniform() * 1e6),
    };
    tears.push(tear);
    const halves = ([1, -1] as const).map((sign): TornPiece => ({ sides: [...piece.sides, { tear, sign }] }));
    pieces = pieces.flatMap((one) => (one === piece ? halves : [one]));
  }
  for (let k = 0; k < crumbs; k++) {
    const tear = tears[Math.floor(uniform() * tears.length)];
    const along = (uniform() - 0.5) * 0.6 * Math.min(width, height);
    print.crumbs.push({
      ...placeOnTear(tear, along),
      r: 4 + 0.02 * Math.min(width, height) * uniform(),
    });
  }
  return { ...print, pieces };
}
