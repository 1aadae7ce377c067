import type { Fault } from '../fault.ts';

/** Cells of this side hold what may overlap; larger than most specks, so that few cells are looked into. */
const CELL = 64;

/** Keeps of findings that lie on one another only the one that is surest; sorted by confidence, surest first. */
export function keepStrongest<T extends Pick<Fault, 'x' | 'y' | 'r' | 'confidence' | 'strength'>>(
  findings: readonly T[],
): T[] {
  const sorted = [...findings].sort(
    (a, b) => b.confidence - a.confidence || b.strength - a.strength || a.y - b.y || a.x - b.x,
  );
  const cells = new Map<string, T[]>();
  const kept: T[] = [];
  for (const finding of sorted) {
    if (cellsNear(finding).some((key) => cells.get(key)?.some((other) => overlap(finding, other)))) continue;
    kept.push(finding);
    for (const key of cellsNear(finding)) {
      const cell = cells.get(key);
      if (cell) cell.push(finding);
      else cells.set(key, [finding]);
    }
  }
  return kept;
}

/** One centre lies inside the other, give or take. */
function overlap(a: Pick<Fault, 'x' | 'y' | 'r'>, b: Pick<Fault, 'x' | 'y' | 'r'>): boolean {
  return Math.hypot(a.x - b.x, a.y - b.y) < Math.max(1.5, 0.9 * Math.max(a.r, b.r));
}

function cellsNear({ x, y, r }: Pick<Fault, 'x' | 'y' | 'r'>): string[] {
  const keys: string[] = [];
  for (let row = Math.floor((y - r) / CELL); row <= Math.floor((y + r) / CELL); row++)
    for (let column = Math.floor((x - r) / CELL); column <= Math.floor((x + r) / CELL); column++)
      keys.push(`${column} ${row}`);
  return keys;
}
