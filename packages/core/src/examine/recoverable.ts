import { srgbToLinear } from '../colour/srgb.ts';
import type { Fault } from './fault.ts';

/** Tone around a fault of which it was not measured, in encoded luma. */
const MIDDLE = 0.5;
/** Shares of the light that is lost between which what is under a fault stops being recoverable. */
const [STILL_WHOLE, ALL_GONE] = [0.75, 0.92];

/**
 * How much of what lies under a fault can be recovered, 0 to 1, before anything was mended: 1 where a quarter of the
 * light or more came through, 0 where nearly none did. A shadow's loss is its step in linear light over the tone
 * around; a lit veil covers at least as much as a white one would. Areas hide all that was under them, but for stains.
 * An outlook, not a measurement: the mend itself fits the veil.
 */
export function recoverable({
  kind,
  polarity,
  strength,
  tone = MIDDLE,
}: Omit<Fault, 'x' | 'y' | 'r'>): number {
  if (kind === 'stain') return 1;
  if (kind !== 'speck' && kind !== 'fibre' && kind !== 'scratch') return 0;
  const around = srgbToLinear(tone);
  const own = srgbToLinear(Math.min(1, Math.max(0, polarity === 'dark' ? tone - strength : tone + strength)));
  const lost =
    polarity === 'dark' ? 1 - own / Math.max(1e-4, around) : (own - around) / Math.max(1e-4, 1 - around);
  return Math.min(1, Math.max(0, (ALL_GONE - lost) / (ALL_GONE - STILL_WHOLE)));
}
