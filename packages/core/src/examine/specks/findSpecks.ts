import { lumaPlane } from '../../raster/float.ts';
import type { Window } from '../../raster/window.ts';
import type { Fault, Polarity } from '../fault.ts';
import { keepStrongest } from './keepStrongest.ts';
import type { Candidate } from './candidates.ts';
import { lumaLevels, speckCandidates } from './candidates.ts';
import { speckConfidence } from './confidence.ts';
import { measureSpeck } from './measureSpeck.ts';

export interface SpeckOptions {
  /** Which specks to look for. */
  readonly polarities: readonly Polarity[];
  /** The largest radius looked for, in pixels. */
  readonly largestRadius: number;
}

export const SPECK_DEFAULTS: SpeckOptions = { polarities: ['dark', 'bright'], largestRadius: 48 };

/** Below this no setting of the sensitivity asks for a finding. */
const LEAST_CONFIDENCE = 0.02;

/**
 * Finds specks: small round places that stand out from an even ring of surroundings, whatever the tone's slope.
 * Scale space of ring-against-core contrasts, held against the usual contrast of the same scale round about; each
 * candidate is then measured. Works on encoded luma.
 *
 * @returns faults in pixels of the whole picture, with every confidence from {@link LEAST_CONFIDENCE} up
 */
export function findSpecks(window: Window, options: SpeckOptions = SPECK_DEFAULTS): Fault[] {
  const levels = lumaLevels(lumaPlane(window.raster), options.largestRadius);
  const found = speckCandidates(levels, options.polarities).flatMap((candidate) => {
    const fault = describe(candidate, levels, window);
    return fault.confidence >= LEAST_CONFIDENCE && fault.r <= 1.5 * options.largestRadius ? [fault] : [];
  });
  return keepStrongest(found);
}

function describe(candidate: Candidate, levels: ReturnType<typeof lumaLevels>, window: Window): Fault {
  const measure = measureSpeck(levels[candidate.level], candidate);
  const scale = 2 ** candidate.level;
  return {
    kind: 'speck',
    polarity: candidate.polarity,
    x: window.left + measure.x * scale,
    y: window.top + measure.y * scale,
    r: measure.radius * scale,
    strength: measure.depth,
    softness: measure.softness,
    confidence: speckConfidence(candidate, measure),
  };
}
