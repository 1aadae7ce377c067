import type { ChartEntry, ChartFrame, Evidence } from './chart.ts';
import { confidencesOf } from './judgeEntries.ts';

/** No frame says more than this for or against an entry. */
const MOST_SAID = 5;
/** Frames on each side that it takes to see a cleaning. */
const LEAST_FRAMES = 2;
/** So much, in log likelihood, the frames after it must say against all that is gone together, and against each. */
const LEAST_GAIN = 8;
const LEAST_OF_ENTRY = 1.5;
/** A cleaning takes at least so many places, and this share of what was there. */
const LEAST_GONE = 3;
const LEAST_SHARE = 0.4;
/** A place that the frames before it make so likely was there. */
const WAS_THERE = 0.5;

/** What frames say of a place together. */
export const saidBy = (evidence: readonly Evidence[]): number =>
  evidence.reduce((sum, one) => sum + Math.max(-MOST_SAID, Math.min(MOST_SAID, one.evidence)), 0);

/** What the frames say of the places that were there before a frame and are not after it. */
function goneAt(entries: readonly ChartEntry[], frames: readonly ChartFrame[], frame: number) {
  const before = entries.map(({ particle, z, evidence }) => ({
    particle,
    // What stands out in some of the frames only was thinned by the others.
    z: z * Math.sqrt(frames.length / frame),
    evidence: evidence.filter((one) => one.frame < frame),
  }));
  const wereThere = confidencesOf(before, frames).map((confidence) => confidence >= WAS_THERE);
  const against = entries.flatMap(({ evidence }, k) => {
    const after = -saidBy(evidence.filter((one) => one.frame >= frame));
    return wereThere[k] && after > LEAST_OF_ENTRY ? [after + saidBy(before[k].evidence)] : [];
  });
  return {
    were: wereThere.filter(Boolean).length,
    gone: against.length,
    gain: against.reduce((a, b) => a + b, 0),
  };
}

/**
 * Finds where in a row of frames the sensor was cleaned: the place from which on much of the dirt that the frames
 * before it show is seen no more. All fitted places are looked at, whatever all frames together make of them: dirt that
 * is gone half of the time is none to all of them.
 *
 * @param entries of the chart of all frames, in the order they were taken
 * @returns the first frame after the cleaning; null where one chart holds for all frames
 */
export function findCleaning(entries: readonly ChartEntry[], frames: readonly ChartFrame[]): number | null {
  let best: { frame: number; gain: number } | null = null;
  for (let frame = LEAST_FRAMES; frame <= frames.length - LEAST_FRAMES; frame++) {
    const { were, gone, gain } = goneAt(entries, frames, frame);
    if (gone < Math.max(LEAST_GONE, LEAST_SHARE * were) || gain < LEAST_GAIN) continue;
    if (gain > (best?.gain ?? 0)) best = { frame, gain };
  }
  return best?.frame ?? null;
}
