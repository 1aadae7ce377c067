import type { Raster } from '../raster/raster.ts';
import type { DustChart } from './chart.ts';
import type { DustPlace } from './dustSums.ts';
import { createDustSums } from './dustSums.ts';
import type { Orientation, Placement, SensorPart, SensorShape } from './sensor.ts';
import { levelSides, onSensor, placeOnSensor } from './sensor.ts';

/** Entries of a chart that are less sure say nothing about where a frame lies. */
const SURE = 0.5;
/** Picture pixels to one of the sensor: of a frame as it was taken, and of the half as large that many keep of one. */
const SCALES = [1, 0.5];
/** Shifts are told apart by so many pixels; what agrees in one may be one further off. */
const STEP = 2;
/** A frame's own fit of a radius is off by up to this factor. */
const AS_LARGE = 1.5;
/** What a place weighs: how far it stands out beyond this, and no more than that, in standard deviations of chance. */
const WEIGHT = { beyond: 1.5, most: 6.5 };
/** The shift that is believed is shared by so many places, and outweighs any other this many times. */
const LEAST_AGREEING = 5;
const CLEARLY = 1.5;
/** Shifts within so many pixels are the same one. */
const APART = 12;

/** How a picture whose file says nothing of it may have been turned by another program. */
const TURNS: readonly Orientation[] = [1, 6, 8, 3];

interface Shift {
  readonly left: number;
  readonly top: number;
  readonly weight: number;
}

const isAlike = (a: DustPlace, b: DustPlace): boolean => a.r <= AS_LARGE * b.r && b.r <= AS_LARGE * a.r;

/**
 * The shift in which places agree most with those of a chart, and the weight of the next that is another (a generalised
 * Hough transform: Ballard 1981).
 */
function bestShifts(
  places: readonly DustPlace[],
  known: readonly DustPlace[],
  room: SensorShape,
): { best: Shift; next: number } {
  const columns = Math.ceil(room.width / STEP) + 3;
  const rows = Math.ceil(room.height / STEP) + 3;
  const votes = new Float32Array(columns * rows);
  for (const one of known)
    for (const place of places) {
      const [left, top] = [one.x - place.x, one.y - place.y];
      if (left < -STEP || top < -STEP || left > room.width + STEP || top > room.height + STEP) continue;
      if (isAlike(one, place))
        votes[Math.round(top / STEP + 1) * columns + Math.round(left / STEP + 1)] += Math.min(
          WEIGHT.most,
          place.z - WEIGHT.beyond,
        );
    }
  const weightAt = (row: number, column: number): number => {
    let weight = 0;
    for (let dy = -1; dy <= 1; dy++)
      for (let dx = -1; dx <= 1; dx++) weight += votes[(row + dy) * columns + column + dx];
    return weight;
  };
  /** The heaviest shift, but for those around another. */
  const heaviest = (but: Shift | null): Shift => {
    let best: Shift = { left: 0, top: 0, weight: 0 };
    for (let row = 1; row < rows - 1; row++)
      for (let column = 1; column < columns - 1; column++) {
        const [left, top] = [(column - 1) * STEP, (row - 1) * STEP];
        if (but && Math.max(Math.abs(left - but.left), Math.abs(top - but.top)) < APART) continue;
        const weight = weightAt(row, column);
        if (weight > best.weight) best = { left, top, weight };
      }
    return best;
  };
  const best = heaviest(null);
  return { best, next: heaviest(best).weight };
}

/** How far the places of one shift lie apart, in pixels: their middles are read from grids. */
const SPREAD = 5;
/** So often a shift is taken again from what agrees with it. */
const ROUNDS = 3;

/** What all places say together that agree in a shift: finer than its steps. Null where too few agree. */
function agreedShift(
  places: readonly DustPlace[],
  known: readonly DustPlace[],
  from: Shift,
): { readonly left: number; readonly top: number } | null {
  let { left, top } = from;
  for (let turn = 0; turn < ROUNDS; turn++) {
    let [count, weight, sumX, sumY] = [0, 0, 0, 0];
    for (const one of known) {
      const away = (place: DustPlace): number => Math.hypot(one.x - place.x - left, one.y - place.y - top);
      const there = places
        .filter((place) => isAlike(one, place))
        .reduce<DustPlace | null>((a, b) => (a && away(a) <= away(b) ? a : b), null);
      if (!there || away(there) > SPREAD) continue;
      // The middle of a small shadow is known better than that of a large one.
      const own = 1 / one.r ** 2;
      count++;
      weight += own;
      sumX += own * (one.x - there.x);
      sumY += own * (one.y - there.y);
    }
    if (count < LEAST_AGREEING) return null;
    [left, top] = [sumX / weight, sumY / weight];
  }
  // A picture is cut between pixels.
  return { left: Math.round(left), top: Math.round(top) };
}

/** True if a picture shows all of a sensor, pixel for pixel. */
export function isWholeFrame(placement: Placement, sensor: SensorShape): boolean {
  const { width, height } = levelSides(placement, placement.orientation);
  return width === sensor.width && height === sensor.height;
}

/** A picture that lies no further from where its file says, in sensor pixels, lies there. */
const NO_FURTHER = 8;

/** What a placement knows better than {@link placeOnSensor} would; null where it knows no more. */
export function sensorPartOf(
  placement: Placement,
  recorded: Orientation,
  sensor: SensorShape,
): SensorPart | null {
  const usual = placeOnSensor(placement, recorded, sensor);
  const { orientation, left, top, scale } = placement;
  const isUsual =
    usual.orientation === orientation &&
    Math.max(Math.abs(usual.left - left), Math.abs(usual.top - top)) < NO_FURTHER &&
    usual.scale === scale;
  return isUsual ? null : { sensor, orientation, left, top, scale };
}

/**
 * Finds where a picture lies on the sensor that a chart is of. A frame as large as the sensor is all of it; another
 * shows a smaller copy or the middle, as {@link placeOnSensor} has it, unless its own dust says that it is another part,
 * cut out of the whole or of a copy of half its sides, or was turned: then the places where rims stand out in it agree
 * with the chart in one shift far more than in any other.
 *
 * @param raster encoded values; each place is held against its own surroundings, so its light does not matter
 * @param orientation as the file says
 * @returns the placement, in pixels of the sensor
 */
export function locateOnSensor(raster: Raster, orientation: Orientation, chart: DustChart): Placement {
  const { sensor } = chart;
  const usual = placeOnSensor(raster, orientation, sensor);
  if (isWholeFrame(usual, sensor)) return usual;
  const known = chart.entries
    .filter(({ confidence }) => confidence >= SURE)
    .map(({ particle, z }): DustPlace => ({ ...particle, z }));
  if (known.length < LEAST_AGREEING) return usual;
  const upright = { width: raster.width, height: raster.height };
  const sums = createDustSums(upright);
  sums.add(raster, placeOnSensor(raster, 1, upright), 1);
  const found = sums.places();
  const turns = orientation === 1 ? TURNS : [orientation];
  const tried = SCALES.flatMap((scale) => {
    const scaled = known.map(({ x, y, r, z }) => ({ x: scale * x, y: scale * y, r: scale * r, z }));
    return turns.flatMap((held) => {
      const level = levelSides(upright, held);
      const room = {
        width: Math.round(scale * sensor.width) - level.width,
        height: Math.round(scale * sensor.height) - level.height,
      };
      if (room.width < 0 || room.height < 0) return [];
      const lying: Placement = { ...upright, orientation: held, left: 0, top: 0, scale: 1 };
      const places = found.map((place) => {
        const [x, y] = onSensor(place.x, place.y, lying);
        return { ...place, x, y };
      });
      return [{ held, scale, places, scaled, ...bestShifts(places, scaled, room) }];
    });
  });
  const [first, second] = [...tried].sort((a, b) => b.best.weight - a.best.weight);
  if (!first) return usual;
  const next = Math.max(first.next, second?.best.weight ?? 0);
  const agreed = agreedShift(first.places, first.scaled, first.best);
  if (!agreed || first.best.weight < CLEARLY * next) return usual;
  const { held, scale } = first;
  return { ...upright, orientation: held, scale, left: agreed.left / scale, top: agreed.top / scale };
}
