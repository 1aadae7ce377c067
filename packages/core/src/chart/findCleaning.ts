import type { ChartEntry, Evidence } from './chart.ts';

/** When a sensor was cleaned: before a frame, and what was on it before and after. */
export interface Cleaning {
  /** The first frame after it. */
  readonly frame: number;
  readonly before: readonly ChartEntry[];
  readonly after: readonly ChartEntry[];
}

/** No frame says more than this for or against an entry. */
const MOST_SAID = 5;
/** Frames on each side that a cleaning takes to be told. */
const LEAST_FRAMES = 2;
/** How much more likely, in log likelihood, a cleaning must make all entries together; and one entry's going or coming. */
const LEAST_GAIN = 8;
const LEAST_OF_ENTRY = 1.5;
/** A cleaning takes at least this share of what was there. */
const LEAST_SHARE = 0.4;

const said = (evidence: readonly Evidence[]): number =>
  evidence.reduce((sum, one) => sum + Math.max(-MOST_SAID, Math.min(MOST_SAID, one.evidence)), 0);

type Stay = 'stays' | 'goes' | 'comes';

/** How the evidence of an entry splits at a frame. A frame that it is not in says nothing of it. */
function splitAt({ evidence }: ChartEntry, frame: number): { stay: Stay; gain: number } {
  const before = said(evidence.filter((one) => one.frame < frame));
  const after = said(evidence.filter((one) => one.frame >= frame));
  if (before > 0 && -after > LEAST_OF_ENTRY) return { stay: 'goes', gain: -after };
  if (after > 0 && -before > LEAST_OF_ENTRY) return { stay: 'comes', gain: -before };
  return { stay: 'stays', gain: 0 };
}

/**
 * Finds where in a row of frames the sensor was cleaned: the place from which on much of the dirt is seen no more.
 *
 * @param entries of the chart of all frames, in the order they were taken
 * @returns null where one chart holds for all frames
 */
export function findCleaning(entries: readonly ChartEntry[], frames: number): Cleaning | null {
  let best: { frame: number; gain: number } | null = null;
  for (let frame = LEAST_FRAMES; frame <= frames - LEAST_FRAMES; frame++) {
    const splits = entries.map((entry) => splitAt(entry, frame));
    const gone = splits.filter(({ stay }) => stay === 'goes').length;
    const were = splits.filter(({ stay }) => stay !== 'comes').length;
    const gain = splits.reduce((sum, split) => sum + split.gain, 0);
    if (gone < LEAST_SHARE * were || gain < LEAST_GAIN) continue;
    if (gain > (best?.gain ?? 0)) best = { frame, gain };
  }
  if (!best) return null;
  const { frame } = best;
  const staying = (wanted: readonly Stay[]): ChartEntry[] =>
    entries.filter((entry) => wanted.includes(splitAt(entry, frame).stay));
  return { frame, before: staying(['stays', 'goes']), after: staying(['stays', 'comes']) };
}
