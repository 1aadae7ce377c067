import type { Pixels } from '../raster/pixels.ts';
import type { LightPatch } from '../mend/recover/lightPatch.ts';
import type { ChartEntry, ChartFrame, DustChart, Evidence } from './chart.ts';
import type { DustPlace } from './dustSums.ts';
import { createDustSums } from './dustSums.ts';
import type { FittedParticle, FrameView } from './fitParticle.ts';
import { fitParticle } from './fitParticle.ts';
import type { FoundEntry } from './judgeEntries.ts';
import { judgeEntries } from './judgeEntries.ts';
import { sensorView } from './frameView.ts';
import type { Particle } from './particle.ts';
import { MOST_POOLED } from './rimPool.ts';
import type { SensorShape } from './sensor.ts';
import { levelOf } from './sensorPlane.ts';

/** Says how far the work is, 0 to 1. */
export type ChartProgress = (share: number) => void;

/** How much more a reference counts among the frames that are added up. */
const REFERENCE_WEIGHT = 3;
/** A place is fitted in the calmest so many frames: more change little, and memory stays bounded. */
const MOST_VIEWS = 16;
/** How far a view reaches, in radii of the place and in pixels. */
const VIEW_RADII = 3.2;
const VIEW_PIXELS = 5;
/** Another place is looked away from up to so many of its radii. */
const OTHERS = 1.3;
/** A particle whose centre is nearer to the border than this, in its radii, cannot be evidences from it. */
const BORDER_RADII = 0.4;
/** No frame decides alone which of two that overlap is the whole. */
const MOST_OF_FRAME = 12;
/** Two fitted particles nearer than this, in the larger one's radii, are one. */
const SAME = 0.8;

interface Looked {
  readonly place: DustPlace;
  readonly views: { readonly frame: number; readonly patch: LightPatch; readonly texture: number }[];
}

const viewRect = ({ x, y, r }: DustPlace, scale: number) => {
  const reach = VIEW_RADII * r + VIEW_PIXELS / scale;
  return { left: x - reach, top: y - reach, width: 2 * reach, height: 2 * reach };
};

/** Mean step between neighbours in a row, as a share of the light: how hard it is to see anything there. */
function textureOf({ planes: [light], width, height }: LightPatch): number {
  let [steps, sum] = [0, 0];
  for (let y = 0; y < height; y++)
    for (let x = 1; x < width; x++) {
      const i = y * width + x;
      steps += Math.abs(light[i] - light[i - 1]);
      sum += light[i];
    }
  return sum > 0 ? steps / sum : 1;
}

/** Below this f-number shadows of common dust grow faint (common practice). */
const FAINT_BELOW = 8;

/** How well a view hides a shadow: by its texture, and by how faint its f-number makes it. */
const hidingOf = ({ texture, frame }: Looked['views'][number], frames: readonly ChartFrame[]): number =>
  texture * Math.max(1, FAINT_BELOW / (frames[frame].fNumber ?? FAINT_BELOW)) ** 2;

/** Marks what belongs to other places as not known. */
function withoutOthers(patch: LightPatch, own: DustPlace, places: readonly DustPlace[]): LightPatch {
  const reach = VIEW_RADII * own.r + VIEW_PIXELS;
  const others = places.filter((other) => {
    if (other === own) return false;
    const away = Math.hypot(other.x - own.x, other.y - own.y);
    return away > own.r + other.r && away < reach * Math.SQRT2 + other.r;
  });
  const { left, top, scale, width, height, known } = patch;
  for (const { x, y, r } of others) {
    const away = OTHERS * r;
    const first = (at: number, from: number): number => Math.max(0, Math.floor((at - away - from) / scale));
    const end = (at: number, from: number, count: number): number =>
      Math.min(count, Math.ceil((at + away - from) / scale));
    for (let row = first(y, top); row < end(y, top, height); row++)
      for (let column = first(x, left); column < end(x, left, width); column++)
        if (Math.hypot(left + (column + 0.5) * scale - x, top + (row + 0.5) * scale - y) < away)
          known[row * width + column] = 0;
  }
  return patch;
}

function entryOf({ place, views }: Looked, { particle, evidence, depths }: FittedParticle): FoundEntry {
  const evidences = views.map(({ frame }, i): Evidence => ({ frame, evidence: evidence[i], ...depths[i] }));
  return { particle, z: place.z, evidence: evidences };
}

/** The level that at least half of the frames fill: small shadows then add up over them. */
function usualLevel(frames: readonly ChartFrame[]): number {
  const levels = frames.map(({ placement }) => levelOf(placement)).sort((a, b) => a - b);
  return levels[levels.length >> 1] ?? 0;
}

/** A slope of tone and its mirror image meet in a ridge at the border of a frame: what is centred on it is that. */
function isOnBorder({ x, y, r }: Particle, { width, height }: SensorShape): boolean {
  return Math.min(x, y, width - x, height - y) < BORDER_RADII * r;
}

/** What all frames together say for an entry; a part of a shadow explains less than the whole. */
const saidFor = ({ evidence }: Pick<ChartEntry, 'evidence'>): number =>
  evidence.reduce((sum, one) => sum + Math.min(MOST_OF_FRAME, one.evidence), 0);

/** Each particle once: of two that overlap the one that explains more. */
function withoutDoubles(entries: readonly FoundEntry[]): FoundEntry[] {
  const kept: FoundEntry[] = [];
  for (const entry of [...entries].sort((a, b) => saidFor(b) - saidFor(a))) {
    const isNear = ({ particle: { x, y, r } }: FoundEntry): boolean =>
      Math.hypot(x - entry.particle.x, y - entry.particle.y) < SAME * Math.max(r, entry.particle.r);
    if (!kept.some(isNear)) kept.push(entry);
  }
  return kept;
}

/**
 * Makes the chart of a sensor from its frames: what stays while the scenes change is dirt. Rims are added up over all
 * frames first, then each place that stands out is fitted in all frames at once, as one particle whose shadow follows
 * the f-number. Frames are loaded one at a time, twice; memory does not grow with their number beyond the views of the
 * places.
 *
 * @param load hands out a frame's upright pixels
 */
export async function chartDust(
  sensor: SensorShape,
  frames: readonly ChartFrame[],
  load: (frame: number) => Promise<Pixels>,
  progress: ChartProgress = () => undefined,
): Promise<DustChart> {
  const sums = createDustSums(sensor, usualLevel(frames));
  for (const [index, { placement, isReference }] of frames.slice(0, MOST_POOLED).entries()) {
    const pixels = await load(index);
    const { width, height } = pixels.shape;
    sums.add(
      pixels.window({ left: 0, top: 0, width, height }).raster,
      placement,
      isReference ? REFERENCE_WEIGHT : 1,
    );
    progress((0.45 * (index + 1)) / frames.length);
  }
  const places = sums.places();
  const looked: Looked[] = places.map((place) => ({ place, views: [] }));
  for (const [index, { placement }] of frames.entries()) {
    const pixels = await load(index);
    for (const { place, views } of looked) {
      const patch = sensorView(pixels, placement, viewRect(place, placement.scale));
      if (!patch) continue;
      views.push({ frame: index, patch, texture: textureOf(patch) });
      if (views.length > MOST_VIEWS) {
        const busiest = views.reduce((a, b) => (b.texture > a.texture ? b : a));
        views.splice(views.indexOf(busiest), 1);
      }
    }
    progress(0.45 + (0.25 * (index + 1)) / frames.length);
  }
  const entries = looked.flatMap((one, i): FoundEntry[] => {
    const seen = [...one.views].sort((a, b) => hidingOf(a, frames) - hidingOf(b, frames));
    const views = seen.map(({ frame, patch }): FrameView => ({
      patch: withoutOthers(patch, one.place, places),
      fNumber: frames[frame].fNumber,
    }));
    if (i % 20 === 0) progress(0.7 + (0.3 * i) / looked.length);
    const fitted = fitParticle(views, one.place);
    return fitted && !isOnBorder(fitted.particle, sensor) ? [entryOf({ ...one, views: seen }, fitted)] : [];
  });
  return { sensor, entries: judgeEntries(withoutDoubles(entries), frames) };
}
