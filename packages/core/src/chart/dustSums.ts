import { halveLuma, smoothLuma } from '../examine/ground/lumaLevels.ts';
import type { Raster } from '../raster/raster.ts';
import type { RimPool } from './rimPool.ts';
import { UNIT, addRims, createPools, mirrored } from './rimPool.ts';
import type { Placement, SensorShape } from './sensor.ts';
import { sensorPlane } from './sensorPlane.ts';

/** A place of the sensor where the rims of many frames agree. */
export interface DustPlace {
  /** Sensor pixels. */
  readonly x: number;
  readonly y: number;
  readonly r: number;
  /** How far it stands out, in standard deviations of what chance gives. */
  readonly z: number;
}

/** What stays while the scenes change: rims of all radii, added up over frames. */
export interface DustSums {
  /**
   * Adds a frame. Time and memory do not depend on how many were added before.
   * @param weight 1; more for a picture of nothing, taken to show the dust
   */
  add(raster: Raster, placement: Placement, weight: number): void;
  /** The places that stand out darker, the clearest first, each once. */
  places(): DustPlace[];
}

/** Levels of the sensor that are looked at: shadows of up to 95 pixels across their radius. */
const LEVELS = 5;
/** The largest rim reaches this far, and a frame is mirrored so far beyond its border. */
const MARGIN = 8;
/** What stands out less is as good as never dirt; chance alone gives so much in one place of two hundred. */
const LEAST_Z = 2.6;
/** At most so many places are looked at more closely: some of any sensor, more of a large one, and never more than this. */
const PLACES = { least: 120, eachMegapixel: 700, most: 3000 };
/** Two places nearer to one another than this, in the larger one's radii, are one if they are about as large. */
const APART = 0.9;
const AS_LARGE = 1.7;

interface Level {
  readonly step: number;
  readonly pools: readonly RimPool[];
}

/** True if no neighbour within reach stands out more; of equal ones the first counts. */
function isPeak({ columns, rows, sums }: RimPool, x: number, y: number, reach: number): boolean {
  const here = sums[y * columns + x];
  const [bottom, right] = [Math.min(rows - 1, y + reach), Math.min(columns - 1, x + reach)];
  for (let ny = Math.max(0, y - reach); ny <= bottom; ny++)
    for (let nx = Math.max(0, x - reach); nx <= right; nx++) {
      const other = sums[ny * columns + nx];
      const isBefore = ny < y || (ny === y && nx < x);
      if (other > here || (other === here && isBefore)) return false;
    }
  return true;
}

/** The places of one pool that stand out against all their neighbours. */
function peaksOf(pool: RimPool, step: number): DustPlace[] {
  const { radius, every, columns, rows, sums, variance } = pool;
  const spread = UNIT * Math.sqrt(variance);
  if (spread === 0) return [];
  const least = LEAST_Z * spread;
  const found: DustPlace[] = [];
  const reach = Math.max(1, Math.round(radius / every / 2));
  for (let y = 0; y < rows; y++)
    for (let x = 0; x < columns; x++) {
      const here = sums[y * columns + x];
      if (here < least || !isPeak(pool, x, y, reach)) continue;
      const [px, py] = [(x * every + 0.5) * step, (y * every + 0.5) * step];
      found.push({ x: px, y: py, r: radius * step, z: here / spread });
    }
  return found;
}

/** A small shadow may lie on a large one: that shows when both are fitted. */
function isOne(a: DustPlace, b: DustPlace): boolean {
  const [small, large] = a.r < b.r ? [a.r, b.r] : [b.r, a.r];
  const away = Math.hypot(a.x - b.x, a.y - b.y);
  return away < APART * (large > AS_LARGE * small ? small : large);
}

/** Side of the cells that places are kept in, and the radius of the largest shadow; in sensor pixels. */
const CELL = 64;
const LARGEST = 96;

/** Places in cells, so that few are held against each other. */
function createCells() {
  const cells = new Map<string, DustPlace[]>();
  const reach = Math.ceil(LARGEST / CELL);
  const cellOf = ({ x, y }: DustPlace): [number, number] => [Math.floor(x / CELL), Math.floor(y / CELL)];
  return {
    /** True if a place that is kept is the same as this one. */
    holds(place: DustPlace): boolean {
      const [cx, cy] = cellOf(place);
      for (let ny = cy - reach; ny <= cy + reach; ny++)
        for (let nx = cx - reach; nx <= cx + reach; nx++)
          if (cells.get(`${nx}/${ny}`)?.some((other) => isOne(other, place))) return true;
      return false;
    },
    keep(place: DustPlace): void {
      const key = cellOf(place).join('/');
      cells.set(key, [...(cells.get(key) ?? []), place]);
    },
  };
}

/** Keeps the clearer of two places that are one. */
function keepClearest(places: DustPlace[], most: number): DustPlace[] {
  const kept: DustPlace[] = [];
  const cells = createCells();
  for (const place of places.sort((a, b) => b.z - a.z || a.y - b.y || a.x - b.x)) {
    if (kept.length >= most) break;
    if (cells.holds(place)) continue;
    kept.push(place);
    cells.keep(place);
  }
  return kept;
}

/**
 * Adds up, over the frames of one camera, how far each place of the sensor looks like the rim of a shadow. A texture
 * gives such a rim here in one frame and there in the next; dirt gives it in all. Each step across a rim counts up to
 * what is usual round about in its frame, so no frame can outweigh the others.
 *
 * @param finest the level of the sensor that is looked at most finely; 0 is its own pixels
 */
export function createDustSums(sensor: SensorShape, finest = 0): DustSums {
  const levels: Level[] = [];
  for (let level = finest; level < LEVELS; level++) {
    const step = 2 ** level;
    const sides = { width: Math.ceil(sensor.width / step), height: Math.ceil(sensor.height / step) };
    if (level > finest && Math.min(sides.width, sides.height) < 32) break;
    levels.push({ step, pools: createPools(sides, level === finest ? 'finest' : 'coarser') });
  }

  function add(raster: Raster, placement: Placement, weight: number): void {
    const frame = sensorPlane(raster, placement, finest);
    let { plane } = frame;
    let { left, top } = frame.place;
    for (let level = frame.level; level < finest + levels.length; level++) {
      if (level > frame.level) {
        plane = halveLuma(plane);
        [left, top] = [left, top].map((at) => 2 * Math.round(at / 4));
      }
      if (Math.min(plane.width, plane.height) < 24) return;
      const wide = mirrored(smoothLuma(plane), MARGIN);
      for (const pool of levels[level - finest].pools) addRims(pool, wide, MARGIN, { left, top }, weight);
    }
  }

  const megapixels = (sensor.width * sensor.height) / 4 ** finest / 1e6;
  const most = Math.min(PLACES.most, PLACES.least + PLACES.eachMegapixel * megapixels);
  const places = (): DustPlace[] =>
    keepClearest(
      levels.flatMap(({ step, pools }) => pools.flatMap((pool) => peaksOf(pool, step))),
      most,
    );

  return { add, places };
}
