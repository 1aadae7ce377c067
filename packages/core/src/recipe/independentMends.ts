import { mendFootprint, mendReads } from '../mend/applyMend.ts';
import type { SpotMend } from '../mend/spotMend.ts';
import type { PictureShape } from '../raster/raster.ts';
import type { Rect } from '../raster/rect.ts';
import { isEmpty, rectsMeet } from '../raster/rect.ts';

/** Side in pixels of the squares by which mends that lie near each other are found. */
const SQUARE = 256;

/** A rectangle that a mend looks at or changes. */
interface Look {
  readonly mend: number;
  readonly rect: Rect;
}

/** Squares that a rectangle touches. */
function* squaresOf({ left, top, width, height }: Rect): Generator<string> {
  for (let y = Math.floor(top / SQUARE); y * SQUARE < top + height; y++)
    for (let x = Math.floor(left / SQUARE); x * SQUARE < left + width; x++) yield `${x},${y}`;
}

/** Groups that grow together. (Union-find with path halving: Tarjan and van Leeuwen 1984.) */
function createGroups(count: number) {
  const parent = Int32Array.from({ length: count }, (_, i) => i);
  const find = (one: number): number => {
    let at = one;
    while (parent[at] !== at) {
      parent[at] = parent[parent[at]];
      at = parent[at];
    }
    return at;
  };
  return {
    find,
    join: (one: number, other: number): void => {
      parent[find(other)] = find(one);
    },
  };
}

/** What it costs about to carry a mend out: what it looks at, and something for being one. */
const costOf = (looks: readonly Rect[]): number =>
  looks.reduce((sum, { width, height }) => sum + width * height, 1000);

/**
 * Shares mends out so that none changes what one of another share looks at: shares may be carried out in any order or at
 * the same time, each in its own, and the picture is the one that all in their order make.
 *
 * @param most shares at most; fewer where mends lie on one another
 * @returns each mend once, in its order within its share
 */
export function independentMends(
  mends: readonly SpotMend[],
  picture: PictureShape,
  most: number,
): SpotMend[][] {
  const changed = mends.map((mend) => mendFootprint(mend, picture));
  const looks = mends.map((mend, k) =>
    [...mendReads(mend, picture), changed[k]].filter((rect) => !isEmpty(rect)),
  );
  const near = new Map<string, Look[]>();
  looks.forEach((rects, mend) => {
    for (const rect of rects)
      for (const square of squaresOf(rect)) {
        const others = near.get(square);
        if (others) others.push({ mend, rect });
        else near.set(square, [{ mend, rect }]);
      }
  });
  const groups = createGroups(mends.length);
  changed.forEach((rect, mend) => {
    if (isEmpty(rect)) return;
    for (const square of squaresOf(rect))
      for (const other of near.get(square) ?? [])
        if (groups.find(other.mend) !== groups.find(mend) && rectsMeet(rect, other.rect))
          groups.join(mend, other.mend);
  });
  return balanced(
    mends.map((_, k) => groups.find(k)),
    looks.map(costOf),
    most,
  ).map((share) => share.map((k) => mends[k]));
}

/** Puts groups into shares, dear ones first, each into the one that has least to do. */
function balanced(groupOf: readonly number[], costs: readonly number[], most: number): number[][] {
  const groups = new Map<number, { members: number[]; cost: number }>();
  groupOf.forEach((group, k) => {
    const own = groups.get(group) ?? { members: [], cost: 0 };
    own.members.push(k);
    own.cost += costs[k];
    groups.set(group, own);
  });
  const shares = Array.from({ length: most }, () => ({ members: [] as number[], cost: 0 }));
  for (const { members, cost } of [...groups.values()].sort((a, b) => b.cost - a.cost)) {
    const least = shares.reduce((a, b) => (b.cost < a.cost ? b : a));
    least.members.push(...members);
    least.cost += cost;
  }
  return shares
    .filter(({ members }) => members.length > 0)
    .map(({ members }) => members.sort((a, b) => a - b));
}
