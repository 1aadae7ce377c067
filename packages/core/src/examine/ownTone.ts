import type { Fault } from '../fault/fault.ts';

/** Tone around a fault of which it was not measured, in encoded luma. */
const MIDDLE = 0.5;

/** Luma of what lies around a fault and of the fault itself, from its depth; encoded, 0 to 1. */
export function ownTone({
  polarity,
  strength,
  tone = MIDDLE,
}: Pick<Fault, 'polarity' | 'strength' | 'tone'>): {
  readonly around: number;
  readonly own: number;
} {
  const own = polarity === 'dark' ? tone - strength : tone + strength;
  return { around: tone, own: Math.min(1, Math.max(0, own)) };
}
