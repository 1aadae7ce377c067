import type { ChartFrame, DustChart } from '@fennip/core/chart';
import type { FaultToMend } from '@fennip/core/mend';
import type { Raster } from '@fennip/core/raster';
import { chartDust } from '@fennip/core/bench';
import { chartFaults, placeOnSensor } from '@fennip/core/chart';
import { comparePictures } from '@fennip/core/measure';
import { proposeMends } from '@fennip/core/mend';
import { cloneRaster, pixelsOf } from '@fennip/core/raster';
import { emptyRecipe, renderRecipe } from '@fennip/core/recipe';
import type { LaidFault } from '@fennip/scenes';
import { atFNumber, layDust, sensorDust } from '@fennip/scenes';
import { cutViews } from './chartViews.ts';
import { roughly, spotPixels } from './damage.ts';
import { rankFindings, scoreFindings } from './find.ts';
import { fromSheet, toSheet } from './light.ts';
import { loadPhotograph, loadSceneParts } from './photographs.ts';
import type { Row } from './report.ts';
import { median, printTable } from './report.ts';
import { UNSEEN } from './seenCases.ts';

/** Sides of a view: the photographs are small, and their parts smaller. */
const [WIDTH, HEIGHT] = [500, 390];
const PARTICLES = 11;
const SENSORS = [1, 2, 3, 4];
/** A shadow shallower than this in every frame is none that could be found. */
const LEAST_DEPTH = 0.02;
const F_NUMBERS: Readonly<Record<string, readonly (number | null)[]>> = {
  'five f-numbers': [16, 11, 8, 16, 5.6, 11, 22, 8],
  'not known': Array.from({ length: 8 }, () => null),
};

/** Eight different views: three parts of each photograph that no training has seen, two of the project's own frame. */
async function eightViews(): Promise<Raster[]> {
  const photographs = await Promise.all(UNSEEN.map(loadPhotograph));
  const [scene] = await loadSceneParts();
  return [
    ...photographs.flatMap(({ raster }) => cutViews(raster, WIDTH, HEIGHT).slice(0, 3)),
    ...cutViews(scene.raster, WIDTH, HEIGHT).slice(0, 2),
  ];
}

interface Shot {
  readonly clean: Raster;
  readonly seen: Raster;
  readonly laid: readonly LaidFault[];
  readonly frame: ChartFrame;
}

/** Views with one sensor's dust on them. */
function shoot(views: readonly Raster[], fNumbers: readonly (number | null)[], sensor: number): Shot[] {
  const particles = sensorDust(PARTICLES, 77 * sensor).map((particle) => ({
    ...particle,
    size: (particle.size * 3300) / WIDTH,
  }));
  return views.map((view, k) => {
    const sheet = toSheet(view);
    const clean = fromSheet(toSheet(view));
    const laid = layDust(
      sheet,
      particles.map((particle) => atFNumber(particle, fNumbers[k] ?? 16)),
    );
    const seen = fromSheet(sheet);
    const placement = placeOnSensor(seen, 1, { width: WIDTH, height: HEIGHT });
    return { clean, seen, laid, frame: { placement, fNumber: fNumbers[k], isReference: false } };
  });
}

const chartOf = (shots: readonly Shot[]): Promise<DustChart> =>
  chartDust(
    { width: WIDTH, height: HEIGHT },
    shots.map(({ frame }) => frame),
    (k) => Promise.resolve(pixelsOf(shots[k].seen)),
  );

/** The dust of a sensor as its clearest frame shows it. */
const truthOf = (shots: readonly Shot[]): LaidFault[] =>
  shots[0].laid
    .map((_, k) => shots.map(({ laid }) => laid[k]).reduce((a, b) => (b.depth > a.depth ? b : a)))
    .filter(({ depth }) => depth >= LEAST_DEPTH);

function psnrOf({ clean, seen, laid }: Shot, faults: readonly FaultToMend[]): number {
  const mended = cloneRaster(seen);
  const mends = proposeMends(faults, pixelsOf(seen));
  renderRecipe(mended, { ...emptyRecipe(mended), mends });
  return comparePictures(mended, clean, spotPixels(laid, clean)).psnr ?? Infinity;
}

/** From a rough click on each place, and from what the chart knows of the same places. */
function gainOn(shot: Shot, chart: DustChart): { alone: number; charted: number } {
  const { frame, laid, seen } = shot;
  const places = chartFaults(chart, pixelsOf(seen), frame.placement, frame.fNumber);
  const rough = roughly({ faults: laid }, 5);
  const charted = rough.map((fault, k): FaultToMend => {
    const { x, y, r } = laid[k];
    const place = places.find(
      (one) => 'fault' in one && Math.hypot(one.fault.x - x, one.fault.y - y) < Math.max(2, r),
    );
    if (!place || !('fault' in place)) return fault;
    const own = place.fault;
    return { ...fault, x: own.x, y: own.y, r: own.r, softness: own.softness, known: place.known };
  });
  return { alone: psnrOf(shot, rough), charted: psnrOf(shot, charted) };
}

/** How well dirt is found from several frames of one sensor, and what knowing it is worth to a recover. */
export async function benchChart(): Promise<void> {
  const views = await eightViews();
  const rows: Row[] = [];
  const gains: { alone: number; charted: number }[] = [];
  for (const [name, fNumbers] of Object.entries(F_NUMBERS))
    for (const count of [2, 4, 8]) {
      const scores: { precision: number; recall: number; f1: number; bestF1: number }[] = [];
      for (const sensor of SENSORS) {
        const shots = shoot(views.slice(0, count), fNumbers, sensor);
        const chart = await chartOf(shots);
        const truth = truthOf(shots);
        const findings = chart.entries.map(({ particle: { x, y }, confidence }) => ({ x, y, confidence }));
        const listed = findings.filter(({ confidence }) => confidence >= 0.5);
        const { bestF1 } = rankFindings(findings, truth, (WIDTH * HEIGHT) / 1e6);
        scores.push({ ...scoreFindings(listed, truth), bestF1 });
        const sure = { ...chart, entries: chart.entries.filter(({ confidence }) => confidence >= 0.5) };
        if (count === 8) gains.push(...shots.map((shot) => gainOn(shot, sure)));
      }
      const mean = (of: (score: (typeof scores)[number]) => number): number =>
        scores.reduce((sum, score) => sum + of(score), 0) / scores.length;
      rows.push([
        `${count} frames, f-numbers ${name}`,
        ...[mean(({ precision }) => precision), mean(({ recall }) => recall)],
        ...[mean(({ f1 }) => f1), mean(({ bestF1 }) => bestF1)],
      ]);
    }
  printTable('Dust charts of four sensors', ['made from', 'precision', 'recall', 'F1', 'best F1'], rows);
  const better = gains.map(({ alone, charted }) => charted - alone);
  printTable(
    'Recover in the frames of a chart of eight, inside the dust, PSNR in dB',
    ['', 'median', 'least', 'most'],
    [
      ['from one frame', ...spread(gains.map(({ alone }) => alone))],
      ['with the chart', ...spread(gains.map(({ charted }) => charted))],
      ['gain', ...spread(better)],
    ],
  );
}

const spread = (values: readonly number[]): number[] => [
  ...[median(values), Math.min(...values), Math.max(...values)],
];
