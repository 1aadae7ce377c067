import { columnOf } from '../../../measure/columnOf.ts';
import { growRect, intersectRects, isEmpty } from '../../../raster/rect.ts';
import type { Rect } from '../../../raster/rect.ts';
import type { Pixels } from '../../../raster/pixels.ts';
import { pictureRect } from '../../../raster/window.ts';
import type { Point, StrokeTarget } from '../../../target/target.ts';
import { targetBounds } from '../../../target/targetBounds.ts';
import { fillLeastBending } from '../../bridge/leastBending.ts';
import type { LightPatch } from '../lightPatch.ts';
import { lightPatchOf } from '../lightPatch.ts';
import { PIXEL_BLUR } from '../../../veil/veil.ts';
import { followLine, moveSideways } from './followLine.ts';
import type { Sideways } from './followLine.ts';
import { lineCoordinates } from './lineCoordinates.ts';
import type { FittedProfile, LineProfile, LineSamples } from './lineProfile.ts';
import { correctProfile, fitLineProfile } from './lineProfile.ts';
import type { LineVeil } from './lineVeil.ts';
import { OUTERMOST, readBetween } from './lineVeil.ts';

/** A line found under a stroke. */
export interface FittedLine {
  readonly veil: LineVeil;
  /** How much better than no line it explains what is seen, in log likelihood for each pixel; below 0 there is none. */
  readonly evidence: number;
}

/** A recipe takes no more in one stroke. */
const MOST_POINTS = 10_000;
/** Distance of the points a course is followed by, in pixels: lines bend little on less. */
const SPACING = 2;
/** Width of the surroundings that are looked at, in pixels. */
const BAND = 10;
/** A stroke by hand may run beside the line by this share of its width, within these bounds in pixels. */
const STRAY = { share: 0.5, least: 1, most: 4 };
/** What is left beside the slit as not known while the profile is still rough, in pixels. */
const CLEARANCE = 1.6;
/** Of the spread between places as far apart as the gap is wide, what is expected across it is off by this share. */
const DOUBT_SHARE = 0.5;
const LEAST_DOUBT = 0.004;

const TURNS = 3;

interface Course {
  readonly points: readonly Point[];
  /** Half the width at each of them. */
  readonly halves: readonly number[];
}

/** A stroke's points evenly spaced, with half its width at each. */
function evenly({ points, width, pressure }: StrokeTarget): Course {
  const lengths = [0];
  for (let i = 1; i < points.length; i++)
    lengths.push(
      lengths[i - 1] + Math.hypot(points[i][0] - points[i - 1][0], points[i][1] - points[i - 1][1]),
    );
  const whole = lengths[lengths.length - 1];
  const count = Math.min(MOST_POINTS, Math.max(2, Math.round(whole / SPACING) + 1));
  const places = Array.from({ length: count }, (_, k) => {
    const along = (whole * k) / (count - 1);
    const next = Math.max(
      1,
      lengths.findIndex((length) => length >= along - 1e-9),
    );
    const before = lengths[next - 1];
    const span = (lengths[next] ?? before) - before;
    return Math.min(points.length - 1, next - 1 + (span > 0 ? (along - before) / span : 0));
  });
  const [xs, ys] = [points.map(([x]) => x), points.map(([, y]) => y)];
  return {
    points: places.map((place): Point => [readBetween(xs, place), readBetween(ys, place)]),
    halves: places.map((place) => (width / 2) * (pressure ? readBetween(pressure, place) : 1)),
  };
}

/** Standard deviation of the difference between places `lag` apart where the picture is known. */
function spreadAt(plane: Float32Array, known: Uint8Array, width: number, lag: number): number {
  let [sum, count] = [0, 0];
  for (let i = 0; i < plane.length; i++) {
    if (!known[i]) continue;
    for (const step of [lag, lag * width]) {
      const j = i + step;
      if (j >= plane.length || !known[j] || (step === lag && j % width < lag)) continue;
      sum += (plane[i] - plane[j]) ** 2;
      count++;
    }
  }
  return count > 0 ? Math.sqrt(sum / count) : 0;
}

/** What the surroundings lead one to expect under a gap around a course, and what is seen there. */
function sampleLine(
  { left, top, width, height, planes, known }: LightPatch,
  { points, halves }: Course,
  gap: number,
  reach: number,
): LineSamples {
  const rect: Rect = { left, top, width, height };
  const { across, place } = lineCoordinates(points, rect, reach);
  const isGap = across.map((away, i) => (Math.abs(away) <= gap + readBetween(halves, place[i]) ? 1 : 0));
  const isLost = columnOf(Uint8Array, isGap, (one, i) => (one || !known[i] ? 1 : 0));
  const sure = isLost.map((one) => 1 - one);
  const means = planes.map((plane) => meanWhere(plane, sure));
  const filled = planes.map((plane, c) => plane.map((value, i) => (isLost[i] ? means[c] : value)));
  fillLeastBending(filled, isLost, width);
  const used = Array.from(across.keys()).filter((i) => isGap[i] === 1 && known[i] === 1);
  const lag = Math.max(2, Math.round(gap + Math.max(...halves)));
  return {
    across: columnOf(Float32Array, used, (i) => across[i]),
    place: columnOf(Float32Array, used, (i) => place[i]),
    seen: planes.map((plane) => columnOf(Float32Array, used, (i) => plane[i])),
    expected: filled.map((plane) => columnOf(Float32Array, used, (i) => Math.min(1, Math.max(0, plane[i])))),
    doubt: planes.map((plane) => LEAST_DOUBT + DOUBT_SHARE * spreadAt(plane, sure, width, lag)),
  };
}

function meanWhere(plane: Float32Array, isUsed: Uint8Array): number {
  let [sum, count] = [0, 0];
  for (let i = 0; i < plane.length; i++)
    if (isUsed[i]) {
      sum += plane[i];
      count++;
    }
  return count > 0 ? sum / count : 0.2;
}

/** A start for the fit: the light that would lift what is expected to what is seen in the middle of the line. */
function startOf({ across, place, seen, expected }: LineSamples, halves: readonly number[]): LineProfile {
  const depth = 0.9;
  const light = seen.map((plane, c) => {
    let [sum, count] = [0, 0];
    plane.forEach((value, i) => {
      if (Math.abs(across[i]) > Math.max(0.4, 0.5 * readBetween(halves, place[i]))) return;
      sum += value - (1 - depth) * expected[c][i];
      count++;
    });
    return Math.max(0, count > 0 ? sum / count / depth : 0.5);
  });
  return { scale: 1, softness: 0.3, depth, light, correction: [] };
}

/**
 * Finds the line under a stroke: its course, followed sideways from a rough one, and its cross-section. What is
 * expected without it is the surface of least bending between its sides; a line that explains what is seen better than
 * that surface alone is one.
 *
 * @param unknown pixels of the whole rectangle {@link lineFitRect} that belong to other faults, row after row
 * @returns null where the stroke lies outside the picture or nothing is known around it
 */
export function fitLine(target: StrokeTarget, pixels: Pixels, unknown?: Uint8Array): FittedLine | null {
  const rect = lineFitRect(target, pixels);
  if (isEmpty(rect) || rect.width < 3 || rect.height < 3) return null;
  const patch = lightPatchOf(pixels.window(rect));
  // A light scratch may clip: what is cut off there still tells where it runs.
  const known = columnOf(Uint8Array, patch.known, (_, i) => (unknown?.[i] ? 0 : 1));
  const light = { ...patch, known };
  let course = evenly(target);
  let fitted: FittedProfile | null = null;
  const stray = Math.min(STRAY.most, Math.max(STRAY.least, STRAY.share * target.width));
  const rounds: Sideways[] = [
    { farthest: stray, step: 0.5 },
    { farthest: 1, step: 0.25 },
    { farthest: 0.3, step: 0.1 },
  ];
  for (const sideways of rounds) {
    const gap = CLEARANCE + sideways.farthest;
    const samples = sampleLine(light, course, gap, gap + Math.max(...course.halves));
    if (samples.across.length < 8) return null;
    const start = fitted?.profile ?? startOf(samples, course.halves);
    const rough = fitted ? start : fitLineProfile(samples, course.halves, start).profile;
    const shifts = followLine(samples, course.halves, rough, sideways);
    course = { ...course, points: moveSideways(course.points, shifts) };
    const again = sampleLine(light, course, CLEARANCE, CLEARANCE + Math.max(...course.halves) + 1);
    if (again.across.length < 8) return null;
    fitted = fitLineProfile(again, course.halves, rough);
    const { scale } = fitted.profile;
    course = { ...course, halves: course.halves.map((half) => half * scale) };
    fitted = { ...fitted, profile: { ...fitted.profile, scale: 1 } };
  }
  if (!fitted) return null;
  const last = sampleLine(light, course, CLEARANCE, OUTERMOST + Math.max(...course.halves));
  let { profile } = fitted;
  // The model's own shape is off by a little: what is left of it and the rest are fitted in turn.
  for (let turn = 0; turn < TURNS; turn++) {
    const { correction } = correctProfile(last, course.halves, profile);
    profile = fitLineProfile(last, course.halves, { ...profile, correction }).profile;
  }
  const { softness, depth, scale, light: own } = profile;
  return {
    veil: {
      kind: 'line',
      points: course.points,
      widths: course.halves.map((half) => 2 * half * scale),
      softness,
      depth,
      light: own,
      ...correctProfile(last, course.halves, profile),
    },
    evidence: fitted.evidence,
  };
}

/** The rectangle {@link fitLine} looks at. */
export const lineFitRect = (target: StrokeTarget, { shape }: Pick<Pixels, 'shape'>): Rect =>
  intersectRects(growRect(targetBounds(target, STRAY.most + PIXEL_BLUR), BAND), pictureRect(shape));
