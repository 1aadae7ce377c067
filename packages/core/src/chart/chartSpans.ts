import type { Pixels } from '../raster/pixels.ts';
import type { ChartEntry, ChartFrame } from './chart.ts';
import { chartShoot } from './chartShoot.ts';
import type { ChartProgress } from './dustChart.ts';
import { chartDust } from './dustChart.ts';
import { findCleaning, saidBy } from './findCleaning.ts';
import type { Placement, SensorShape } from './sensor.ts';

/** Frames between two cleanings of a sensor, and the dirt that is on all of them. */
export interface ChartSpan {
  readonly first: number;
  /** Index after the last frame. */
  readonly end: number;
  /** Their evidence numbers the frames of the whole row. */
  readonly entries: readonly ChartEntry[];
}

export interface SpannedCharts {
  readonly spans: readonly ChartSpan[];
  readonly placements: readonly Placement[];
}

/** An entry less sure than this is not carried from the chart of all frames into that of some. */
const LEAST_SURE = 0.3;
/** So much the frames of a span must say, in log likelihood, for what survived a cleaning. */
const LEAST_SAID = 1.5;
/** Two entries nearer than this, in the larger one's radii, are one. */
const SAME = 0.8;
/** Of the time, what the chart of all frames takes. Few rows of frames hold a cleaning. */
const WHOLE = 0.9;

/** What was there before and after, and is weak in the frames of one span alone. */
function withSurvivors(
  own: readonly ChartEntry[],
  all: readonly ChartEntry[],
  { first, end }: Frames,
): ChartEntry[] {
  const isNear = ({ particle: a }: ChartEntry, { particle: b }: ChartEntry): boolean =>
    Math.hypot(a.x - b.x, a.y - b.y) < SAME * Math.max(a.r, b.r);
  const survivors = all.flatMap((entry): ChartEntry[] => {
    if (entry.confidence < LEAST_SURE) return [];
    const evidence = entry.evidence.filter(({ frame }) => frame >= first && frame < end);
    return saidBy(evidence) > LEAST_SAID ? [{ ...entry, evidence }] : [];
  });
  const missed = survivors.filter(
    (entry) => !own.some((known) => known.confidence >= entry.confidence && isNear(known, entry)),
  );
  return [...own.filter((entry) => !missed.some((better) => isNear(better, entry))), ...missed]
    .sort((a, b) => b.confidence - a.confidence)
    .map((entry, k) => ({ ...entry, number: k + 1 }));
}

interface Frames {
  readonly first: number;
  readonly end: number;
}

/**
 * Makes the charts of a sensor from all its frames: one, or where it was cleaned meanwhile one before and one after.
 *
 * @param frames in the order they were taken, placed as their files say
 * @param load hands out a frame's upright pixels
 * @returns for each span its frames and its chart, places in pixels of the sensor
 */
export async function chartSpans(
  sensor: SensorShape,
  frames: readonly ChartFrame[],
  load: (frame: number) => Promise<Pixels>,
  progress: ChartProgress = () => undefined,
): Promise<SpannedCharts> {
  const { entries, placements } = await chartShoot(sensor, frames, load, (share) => progress(WHOLE * share));
  const placed = frames.map((frame, k): ChartFrame => ({ ...frame, placement: placements[k] }));

  async function spansOf(
    { first, end }: Frames,
    known: readonly ChartEntry[],
  ): Promise<readonly ChartSpan[]> {
    const own = known.map((entry) => ({
      ...entry,
      evidence: entry.evidence.map((one) => ({ ...one, frame: one.frame - first })),
    }));
    const cleaning = findCleaning(own, placed.slice(first, end));
    if (cleaning === null) return [{ first, end, entries: known }];
    const spans: ChartSpan[] = [];
    for (const part of [
      { first, end: first + cleaning },
      { first: first + cleaning, end },
    ]) {
      const charted = await chartDust(sensor, placed.slice(part.first, part.end), (k) =>
        load(part.first + k),
      );
      const numbered = charted.entries.map((entry) => ({
        ...entry,
        evidence: entry.evidence.map((one) => ({ ...one, frame: one.frame + part.first })),
      }));
      spans.push(...(await spansOf(part, withSurvivors(numbered, known, part))));
      progress(WHOLE + ((1 - WHOLE) * part.end) / frames.length);
    }
    return spans;
  }

  return { spans: await spansOf({ first: 0, end: frames.length }, entries), placements };
}
