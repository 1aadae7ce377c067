import type { Fault } from '../fault.ts';

/** Cells of this side hold what may overlap; larger than most specks, so that few cells are looked into. */
const CELL = 64;

/** A finding with how well its shape explains what is seen there. */
export interface Shaped extends Fault {
  readonly fit: number;
}

export function withoutFit(shaped: Shaped): Fault {
  const { fit, ...fault } = shaped;
  void fit;
  return fault;
}

/** A shape counts when its own confidence is at least this share of the surest one's at its place. */
const SHARE = 0.4;

/**
 * Keeps of findings that lie on one another one: as sure as the surest, in the shape that explains the place best.
 * Sorted by confidence, surest first.
 */
export function keepStrongest(findings: readonly Shaped[]): Fault[] {
  const sorted = [...findings].sort(
    (a, b) => b.confidence - a.confidence || b.strength - a.strength || a.y - b.y || a.x - b.x,
  );
  const cells = new Map<number, { readonly first: Shaped; shape: Shaped }[]>();
  const kept: { readonly first: Shaped; shape: Shaped }[] = [];
  for (const finding of sorted) {
    const known = cellsNear(finding)
      .flatMap((key) => cells.get(key) ?? [])
      .find(({ first }) => overlap(finding, first));
    if (known) {
      const { first, shape } = known;
      const isAnother = finding.polarity === first.polarity && finding.confidence >= SHARE * first.confidence;
      if (isAnother && finding.fit > shape.fit) known.shape = finding;
      continue;
    }
    const place = { first: finding, shape: finding };
    kept.push(place);
    for (const key of cellsNear(finding)) {
      const cell = cells.get(key);
      if (cell) cell.push(place);
      else cells.set(key, [place]);
    }
  }
  const shaped = kept.map(({ first, shape }) => withoutFit({ ...shape, confidence: first.confidence }));
  return withoutParts(shaped);
}

/** The shape that explains a place best may hold what lay beside the surest one there: a part of it, and no other speck. */
function withoutParts(sorted: readonly Fault[]): Fault[] {
  const cells = new Map<number, Fault[]>();
  return sorted.filter((fault) => {
    const near = cellsNear(fault);
    const isPart = near.some((key) =>
      cells.get(key)?.some((other) => other.polarity === fault.polarity && overlap(fault, other)),
    );
    if (isPart) return false;
    for (const key of near) {
      const cell = cells.get(key);
      if (cell) cell.push(fault);
      else cells.set(key, [fault]);
    }
    return true;
  });
}

/** One centre lies inside the other, give or take. */
function overlap(a: Pick<Fault, 'x' | 'y' | 'r'>, b: Pick<Fault, 'x' | 'y' | 'r'>): boolean {
  return Math.hypot(a.x - b.x, a.y - b.y) < Math.max(1.5, 0.9 * Math.max(a.r, b.r));
}

/** Cells that a picture may have across or down, and more. */
const MOST_CELLS = 2 ** 20;

/** Numbers of the cells that a finding reaches into; it may reach beyond the picture. */
function cellsNear({ x, y, r }: Pick<Fault, 'x' | 'y' | 'r'>): number[] {
  const keys: number[] = [];
  for (let row = Math.floor((y - r) / CELL); row <= Math.floor((y + r) / CELL); row++)
    for (let column = Math.floor((x - r) / CELL); column <= Math.floor((x + r) / CELL); column++)
      keys.push(MOST_CELLS * row + column);
  return keys;
}
