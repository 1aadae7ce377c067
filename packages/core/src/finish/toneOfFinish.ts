import type { FinishStep } from './finishStep.ts';
import { monotoneCurve } from './curve/monotoneCurve.ts';
import { tonedValue } from './tone.ts';

/**
 * What a finish makes of a grey of 0 to 1, as far as it changes tones alike everywhere: its levels and curves without
 * a zone, each at its share. Good enough to tell how much a step in tone grows or shrinks.
 *
 * @returns a function of encoded values, from 0 to 1 to 0 to 1
 */
export function toneOfFinish(steps: readonly FinishStep[]): (value: number) => number {
  const bends = steps.flatMap((step): ((value: number) => number)[] => {
    if (!step.on || (step.method !== 'levels' && step.method !== 'curve') || step.zone !== undefined)
      return [];
    const { share } = step;
    const bend =
      step.method === 'curve'
        ? monotoneCurve(step.points)
        : (value: number): number =>
            step.tones.reduce((sum, tone) => sum + tonedValue(value, tone), 0) / step.tones.length;
    return [(value) => value + share * (bend(value) - value)];
  });
  return (value) => bends.reduce((toned, bend) => Math.min(1, Math.max(0, bend(toned))), value);
}
