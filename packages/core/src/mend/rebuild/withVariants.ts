import type { Loss } from './completionLevel.ts';

/** How patches may be changed before a loss is filled from them. */
export type PatchVariant = 'mirrored' | 'turned' | 'scaled';

export const PATCH_VARIANTS = ['mirrored', 'turned', 'scaled'] as const satisfies readonly PatchVariant[];

/** Copies begin at multiples of this, so that a level's halvings are those of each copy; and so far they lie apart. */
const GRID = 64;
/** How much smaller and larger patches may be. */
const SCALES = [0.8, 1.25] as const;

/** A copy of a loss: its sides, and where in the loss each of its places comes from, in pixels. */
interface Copy {
  readonly width: number;
  readonly height: number;
  readonly from: (x: number, y: number) => readonly [x: number, y: number];
}

function copiesOf({ width, height }: Loss, variant: PatchVariant): Copy[] {
  const across = (x: number): number => width - x;
  const down = (y: number): number => height - y;
  switch (variant) {
    case 'mirrored':
      return [
        { width, height, from: (x, y) => [across(x), y] },
        { width, height, from: (x, y) => [x, down(y)] },
      ];
    case 'turned':
      return [
        { width: height, height: width, from: (x, y) => [y, down(x)] },
        { width, height, from: (x, y) => [across(x), down(y)] },
        { width: height, height: width, from: (x, y) => [across(y), x] },
      ];
    case 'scaled':
      return SCALES.map((scale) => ({
        ...{ width: Math.floor(width * scale), height: Math.floor(height * scale) },
        from: (x, y) => [x / scale, y / scale],
      }));
  }
}

/** True if a pixel may be taken from. */
const isTakeable = ({ width, height, lost, unknown, kept }: Loss, x: number, y: number): boolean => {
  const i = y * width + x;
  return x >= 0 && y >= 0 && x < width && y < height && lost[i] !== 1 && unknown[i] !== 1 && kept[i] !== 1;
};

/** The colour of a loss between four of its pixels, onto `sums`. @returns false where one of them may not be taken from */
function sampleBetween(loss: Loss, px: number, py: number, sums: number[]): boolean {
  const [column, row] = [Math.floor(px - 0.5), Math.floor(py - 0.5)];
  const [partX, partY] = [px - 0.5 - column, py - 0.5 - row];
  sums.fill(0);
  for (const [dx, dy, share] of [
    [0, 0, (1 - partX) * (1 - partY)],
    [1, 0, partX * (1 - partY)],
    [0, 1, (1 - partX) * partY],
    [1, 1, partX * partY],
  ] as const) {
    if (share < 1e-6) continue;
    const [sx, sy] = [column + dx, row + dy];
    if (!isTakeable(loss, sx, sy)) return false;
    for (let c = 0; c < sums.length; c++) sums[c] += share * loss.colours[c][sy * loss.width + sx];
  }
  return true;
}

/** Lays a copy into a wider loss: its colours between those of four pixels, and known only where all four are. */
function layCopy(loss: Loss, wide: Loss, left: number, { width, height, from }: Copy): void {
  const sums = loss.colours.map(() => 0);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const onto = y * wide.width + left + x;
      const isKnown = sampleBetween(loss, ...from(x + 0.5, y + 0.5), sums);
      wide.unknown[onto] = isKnown ? 0 : 1;
      if (isKnown) for (let c = 0; c < sums.length; c++) wide.colours[c][onto] = sums[c];
    }
}

/**
 * A loss with copies of its surroundings beside it, mirrored, turned or scaled: patches of the copies are what patches of the
 * picture would be if they were changed so. Completion itself knows nothing of it.
 *
 * @returns the loss in the upper left corner of a larger one; the loss itself where no variant is asked for
 */
export function withVariants(loss: Loss, variants: readonly PatchVariant[]): Loss {
  const copies = variants.flatMap((variant) => copiesOf(loss, variant));
  if (copies.length === 0) return loss;
  const beside = (width: number): number => GRID * (Math.ceil(width / GRID) + 1);
  const lefts: number[] = [];
  let end = beside(loss.width);
  for (const copy of copies) {
    lefts.push(end);
    end += beside(copy.width);
  }
  const height = Math.max(loss.height, ...copies.map((copy) => copy.height));
  const size = end * height;
  const wide: Loss = {
    ...{ width: end, height, colours: loss.colours.map(() => new Float32Array(size)) },
    lost: new Uint8Array(size),
    // What lies between the copies is not known, so that no patch reaches from one into another.
    unknown: new Uint8Array(size).fill(1),
    // The sides of copies are not the picture's.
    ends: { left: loss.ends.left, top: false, right: false, bottom: false },
    kept: new Uint8Array(size),
  };
  for (let y = 0; y < loss.height; y++) {
    const [from, onto] = [y * loss.width, y * end];
    loss.colours.forEach((plane, c) => wide.colours[c].set(plane.subarray(from, from + loss.width), onto));
    for (const name of ['lost', 'unknown', 'kept'] as const)
      wide[name].set(loss[name].subarray(from, from + loss.width), onto);
  }
  copies.forEach((copy, k) => layCopy(loss, wide, lefts[k], copy));
  return wide;
}
