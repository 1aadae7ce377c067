import type { Join } from '../assembly.ts';
import type { FoundPiece } from '../pieces/findPieces.ts';
import { coveredShares } from './coveredShare.ts';
import type { PairFit } from './fitPairs.ts';
import { fitPairs } from './fitPairs.ts';
import type { Placement } from './placement.ts';
import { AS_IT_LIES, after, inverse } from './placement.ts';
import { joinsOf, settlePieces } from './settlePieces.ts';
import { tornCourseOf } from './tornCourse.ts';

/** Steps of a border for the diagonal of all pieces together: fine enough for bites, coarse enough to be quick. */
const STEPS = 700;
/** A join that is less sure than this is none. */
const LEAST = 0.5;
/** Pieces may cover so much of one another, as a share of the smaller: torn paper has two layers. */
const MOST_COVERED = 0.03;

/** Where every piece lies. */
export interface LaidPieces {
  /** From the scan of each piece onto a plane of their own; null where it fits nowhere. */
  readonly placements: readonly (Placement | null)[];
  readonly joins: readonly Join[];
}

/** The step of the courses of some pieces, in pixels. */
const stepFor = (pieces: readonly Pick<FoundPiece, 'area'>[]): number =>
  Math.max(2, Math.sqrt(2 * pieces.reduce((sum, { area }) => sum + area, 0)) / STEPS);

/** Pieces that lie beside one another, in groups. */
class Groups {
  readonly placements: Placement[];
  private readonly group: number[];

  constructor(count: number) {
    this.placements = Array.from({ length: count }, () => AS_IT_LIES);
    this.group = Array.from({ length: count }, (_, k) => k);
  }

  /** The pieces that lie with this one. */
  withPiece(piece: number): number[] {
    return this.group.flatMap((one, k) => (one === this.group[piece] ? [k] : []));
  }

  /** Brings the group of the second piece to that of the first, unless pieces would lie over one another. */
  bring(
    { pieces: [a, b], placement }: PairFit,
    isCovered: (a: number, b: number, onto: Placement) => boolean,
  ): void {
    if (this.group[a] === this.group[b]) return;
    const { placements } = this;
    const move = after(after(inverse(placements[b]), placement), placements[a]);
    const [stay, come] = [this.withPiece(a), this.withPiece(b)];
    const covers = (i: number, j: number): boolean =>
      isCovered(i, j, after(after(placements[j], move), inverse(placements[i])));
    if (stay.some((i) => come.some((j) => covers(i, j)))) return;
    for (const j of come) {
      placements[j] = after(placements[j], move);
      this.group[j] = this.group[a];
    }
  }

  /** The largest group. */
  largest(): number[] {
    const all = this.group.map((_, k) => this.withPiece(k));
    return all.reduce((most, one) => (one.length > most.length ? one : most));
  }
}

/**
 * Lays the pieces of a torn print beside one another. Every two are fitted along their tears; the surest joins are made first,
 * none that would lay pieces over one another; then each piece is fitted anew to all that lie around it. (As in Zhu, Zhou
 * and Hu 2008, joins are sought that all agree; here by making the surest first.)
 *
 * @param pieces of one print, on scans of the same resolution
 */
export function layPieces(pieces: readonly FoundPiece[]): LaidPieces {
  const step = stepFor(pieces);
  const courses = pieces.map((piece) => tornCourseOf(piece, step));
  const shares = coveredShares(pieces);
  const groups = new Groups(pieces.length);
  for (const fit of fitPairs(courses, step)) {
    if (fit.confidence < LEAST) break;
    groups.bring(fit, (a, b, onto) => shares(a, b, onto) > MOST_COVERED);
  }
  const laid = groups.largest().map((number) => ({
    ...{ number, course: courses[number], placement: groups.placements[number] },
  }));
  const settled = settlePieces(laid, step);
  const placements = pieces.map((_, k) => settled.find(({ number }) => number === k)?.placement ?? null);
  return { placements, joins: joinsOf(settled, step) };
}
