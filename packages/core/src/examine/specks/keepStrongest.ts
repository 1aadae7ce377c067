import { createDiscGrid } from '../discGrid.ts';
import type { Fault } from '../../fault/fault.ts';
import type { Shaped } from '../scoredFault.ts';
import { withoutFit } from '../scoredFault.ts';

/** A shape counts when its own confidence is at least this share of the surest one's at its place. */
const SHARE = 0.4;

/** One centre lies inside the other, give or take. */
function overlap(a: Pick<Fault, 'x' | 'y' | 'r'>, b: Pick<Fault, 'x' | 'y' | 'r'>): boolean {
  const away = Math.max(1.5, 0.9 * Math.max(a.r, b.r));
  return (a.x - b.x) ** 2 + (a.y - b.y) ** 2 < away * away;
}

/**
 * Keeps of findings that lie on one another one: as sure as the surest, in the shape that explains the place best.
 * Sorted by confidence, surest first.
 */
export function keepStrongest(findings: readonly Shaped[]): Fault[] {
  const sorted = [...findings].sort(
    (a, b) => b.confidence - a.confidence || b.strength - a.strength || a.y - b.y || a.x - b.x,
  );
  const kept: { readonly first: Shaped; shape: Shaped }[] = [];
  const places = createDiscGrid<(typeof kept)[number]>();
  for (const finding of sorted) {
    const known = places.find(finding, ({ first }) => overlap(finding, first));
    if (known) {
      const { first, shape } = known;
      const isAnother = finding.polarity === first.polarity && finding.confidence >= SHARE * first.confidence;
      if (isAnother && finding.fit > shape.fit) known.shape = finding;
      continue;
    }
    const place = { first: finding, shape: finding };
    kept.push(place);
    places.add(finding, place);
  }
  return withoutParts(
    kept.map(({ first, shape }) => {
      const fault = withoutFit(shape);
      return shape === first ? fault : { ...fault, confidence: first.confidence };
    }),
  );
}

/** The shape that explains a place best may hold what lay beside the surest one there: a part of it, and no other speck. */
function withoutParts(sorted: readonly Fault[]): Fault[] {
  const whole = createDiscGrid<Fault>();
  return sorted.filter((fault) => {
    const { polarity } = fault;
    if (whole.find(fault, (other) => other.polarity === polarity && overlap(fault, other))) return false;
    whole.add(fault, fault);
    return true;
  });
}
