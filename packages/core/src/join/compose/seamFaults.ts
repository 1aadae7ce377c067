import type { Fault } from '../../fault/fault.ts';
import { distanceToSet } from '../../target/distanceTransform.ts';
import { pixelRings } from '../../target/pixelRings.ts';
import { simplifyOutline } from '../../target/simplifyOutline.ts';
import { spreadFrom } from '../../target/spreadFrom.ts';
import type { JoinedPicture } from './renderAssembly.ts';

/** What lies farther than this from all pictures is a loss, not white fibre or a gap, in pixels. */
const WIDEST_TEAR = 14;
/** A seam is listed in parts no longer and no wider than this, in pixels: what fills one is taken from around it. */
const PART = 64;
/** Parts of a seam of fewer pixels belong to the part beside them. */
const LEAST_PIXELS = 16;
/** An outline strays from the border of its pixels by at most so much, in pixels: no pixel's middle changes sides. */
const TOLERANCE = 0.2;
/** Numbers of what lies at a pixel: the picture of a piece, a loss, or the seam between two pieces and more. */
const PICTURE = 0;
const LOSS = 1;
const FIRST_SEAM = 2;

type Origin = Pick<JoinedPicture, 'origin'> & { readonly width: number; readonly height: number };

/** For each pixel the number of the piece whose picture is nearest. */
function nearestPieces({ origin, width, height }: Origin): Uint8Array {
  const nearest = origin.slice();
  const open: number[] = [];
  for (let i = 0; i < origin.length; i++) {
    const x = i % width;
    const isRim =
      (x > 0 && !origin[i - 1]) ||
      (x < width - 1 && !origin[i + 1]) ||
      (i >= width && !origin[i - width]) ||
      (i < width * (height - 1) && !origin[i + width]);
    if (origin[i] && isRim) open.push(i);
  }
  spreadFrom(open, width, height, (to, from) => {
    if (nearest[to]) return false;
    nearest[to] = nearest[from];
    return true;
  });
  return nearest;
}

/** Pixels of seams, each with what lies nearest to it. */
interface Seams {
  readonly nearest: Uint8Array;
  readonly isSeam: Uint8Array;
}

/** Where the pieces that are nearest change from one pixel of a seam to the next runs its middle: its pixels, numbered. */
function numberMiddles(numbers: Uint16Array, { nearest, isSeam }: Seams, width: number): number[] {
  const middles: number[] = [];
  const number = (i: number, to: number): void => {
    const [a, b] = [Math.min(nearest[i], nearest[to]), Math.max(nearest[i], nearest[to])];
    if (a === b) return;
    for (const one of [i, to]) {
      if (numbers[one] || !isSeam[one]) continue;
      numbers[one] = FIRST_SEAM + a * 256 + b;
      middles.push(one);
    }
  };
  for (let i = 0; i < nearest.length; i++) {
    if (!isSeam[i]) continue;
    if ((i + 1) % width !== 0) number(i, i + 1);
    if (i + width < nearest.length) number(i, i + width);
  }
  return middles;
}

/** For each pixel whether it is picture, loss or which seam; a seam lies between two pieces, or a piece and the border. */
function seamNumbers(joined: Origin): Uint16Array {
  const { origin, width, height } = joined;
  const away = distanceToSet(origin, width, height);
  const toLoss = distanceToSet(
    Uint8Array.from(away, (far) => (far > WIDEST_TEAR ? 1 : 0)),
    width,
    height,
  );
  const isSeam = Uint8Array.from(origin, (piece, i) => (!piece && toLoss[i] > WIDEST_TEAR ? 1 : 0));
  const nearest = nearestPieces(joined);
  const numbers = new Uint16Array(origin.length);
  const middles = numberMiddles(numbers, { nearest, isSeam }, width);
  spreadFrom(middles, width, height, (to, from) => {
    if (numbers[to] || !isSeam[to] || nearest[to] !== nearest[from]) return false;
    numbers[to] = numbers[from];
    return true;
  });
  for (let i = 0; i < origin.length; i++) {
    if (origin[i] || numbers[i]) continue;
    numbers[i] = isSeam[i] ? FIRST_SEAM + nearest[i] : LOSS;
  }
  return numbers;
}

/** Cuts seams where they go from one square of the picture into the next: each part then lies on one ground, or few. */
function cutSeams(numbers: Uint16Array, width: number): void {
  const known = new Map<number, number>();
  const columns = Math.ceil(width / PART);
  for (let i = 0; i < numbers.length; i++) {
    if (numbers[i] < FIRST_SEAM) continue;
    const square = Math.floor(i / width / PART) * columns + Math.floor((i % width) / PART);
    const key = square * 65536 + numbers[i];
    const number = known.get(key) ?? FIRST_SEAM + known.size;
    known.set(key, number);
    numbers[i] = number;
  }
}

/** The pixels that hang together and bear one number, as indices. */
function partsOf(numbers: Uint16Array, width: number, height: number): number[][] {
  const seen = new Uint8Array(numbers.length);
  const parts: number[][] = [];
  for (let i = 0; i < numbers.length; i++) {
    if (numbers[i] === PICTURE || seen[i]) continue;
    const part = [i];
    seen[i] = 1;
    spreadFrom(part, width, height, (to, from) => {
      if (seen[to] || numbers[to] !== numbers[from]) return false;
      seen[to] = 1;
      return true;
    });
    parts.push(part);
  }
  return parts;
}

/** Gives small parts the number of a part beside them. @returns true if any had one */
function joinSmall(numbers: Uint16Array, width: number, height: number): boolean {
  let isChanged = false;
  for (const part of partsOf(numbers, width, height)) {
    if (part.length >= LEAST_PIXELS) continue;
    const beside = part.flatMap((i) => [i - 1, i + 1, i - width, i + width]);
    const to = beside.find(
      (i) => i >= 0 && i < numbers.length && numbers[i] && numbers[i] !== numbers[part[0]],
    );
    if (to === undefined) continue;
    for (const i of part) numbers[i] = numbers[to];
    isChanged = true;
  }
  return isChanged;
}

/**
 * What of a joined picture is not its own: white fibre and gaps between two pieces as tears, part after part, larger places as
 * losses, each with the outline of its pixels. Together they hold every pixel that no piece's picture covers.
 *
 * @returns in pixels of the joined picture
 */
export function seamFaults({ origin, raster: { width, height } }: JoinedPicture): Fault[] {
  const numbers = seamNumbers({ origin, width, height });
  cutSeams(numbers, width);
  for (let round = 0; round < 3 && joinSmall(numbers, width, height); round++);
  return partsOf(numbers, width, height).map((part): Fault => {
    const outline = simplifyOutline(pixelRings(part, width).outer, TOLERANCE);
    let [x, y] = [0, 0];
    for (const i of part) {
      x += ((i % width) + 0.5) / part.length;
      y += (Math.floor(i / width) + 0.5) / part.length;
    }
    return {
      kind: numbers[part[0]] === LOSS ? 'loss' : 'tear',
      ...{ polarity: 'bright', x, y, r: Math.sqrt(part.length / Math.PI) },
      ...{ strength: 1, softness: 0, confidence: 1, outline, isExact: true },
    };
  });
}
