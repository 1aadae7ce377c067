import { srgbToLinear } from '../light/srgb.ts';
import type { Fault } from '../fault/fault.ts';
import { describeKind } from '../fault/kinds.ts';
import { ownTone } from './ownTone.ts';

/** Of a shadow: shares of the light that is lost between which what lies under it stops being recoverable. */
const [SHADOW_WHOLE, SHADOW_GONE] = [0.2, 0.65];
/** Of a veil of added light, which hides more than it adds. */
const VEIL_GONE = 0.4;
/** And the softness between which its border says less or more about it. */
const [CUT_SHARP, SOFT] = [0.15, 0.6];

const between = (value: number, from: number, to: number): number =>
  Math.min(1, Math.max(0, (value - from) / (to - from)));

/**
 * How much of what lies under a fault can be recovered, 0 to 1, before anything was mended. A shadow's loss is its step
 * in linear light over the tone around; a lit veil covers at least as much as a white one would. Stains keep what they
 * tint; other areas hide all that was under them. An outlook, not a measurement: where it falls from 1 to 0 follows
 * the share of specks that were recovered when those of the demo's print and underwater picture were mended.
 */
export function recoverable(
  fault: Pick<Fault, 'kind' | 'polarity' | 'strength' | 'softness' | 'tone'>,
): number {
  const { kind, polarity, softness } = fault;
  const { letsLightThrough, shape } = describeKind(kind);
  if (!letsLightThrough) return 0;
  // A stain keeps what it tints.
  if (shape === 'area') return 1;
  const tones = ownTone(fault);
  const [around, own] = [srgbToLinear(tones.around), srgbToLinear(tones.own)];
  if (polarity === 'dark') return 1 - between(1 - own / Math.max(1e-4, around), SHADOW_WHOLE, SHADOW_GONE);
  const covered = (own - around) / Math.max(1e-4, 1 - around);
  return (1 - between(covered, 0, VEIL_GONE)) * between(softness, CUT_SHARP, SOFT);
}
