import type { LumaPlane } from '../ground/lumaLevels.ts';

/** Where the ring is looked at: four pairs of opposite points, in whole pixels from the core. */
export interface Ring {
  readonly straight: number;
  readonly slanted: number;
}

/** What the ring-against-core test saw. */
export interface RingContrast {
  /** Twice the weakest contrast where all four pairs agree, above 0 where the core is darker; 0 elsewhere. */
  readonly map: Int16Array;
  /** Where it is not 0, in order. */
  readonly places: Int32Array;
}

/** Contrasts below this are not looked at, in twice the units of a plane: no eye sees them. */
const LEAST_CONTRAST = 80;

/** @returns how many places are listed after this row */
function contrastRow(
  data: Uint16Array,
  map: Int16Array,
  places: Int32Array,
  listed: number,
  from: number,
  end: number,
  straight: number,
  down: number,
  falling: number,
  rising: number,
): number {
  let count = listed;
  for (let i = from; i < end; i++) {
    const core = data[i] << 1;
    const a = data[i - straight] + data[i + straight] - core;
    if (a < LEAST_CONTRAST && a > -LEAST_CONTRAST) continue;
    const b = data[i - down] + data[i + down] - core;
    if (a > 0) {
      if (b < LEAST_CONTRAST) continue;
      const c = data[i - falling] + data[i + falling] - core;
      if (c < LEAST_CONTRAST) continue;
      const d = data[i - rising] + data[i + rising] - core;
      if (d < LEAST_CONTRAST) continue;
      const ab = a < b ? a : b;
      const cd = c < d ? c : d;
      map[i] = ab < cd ? ab : cd;
    } else {
      if (b > -LEAST_CONTRAST) continue;
      const c = data[i - falling] + data[i + falling] - core;
      if (c > -LEAST_CONTRAST) continue;
      const d = data[i - rising] + data[i + rising] - core;
      if (d > -LEAST_CONTRAST) continue;
      const ab = a > b ? a : b;
      const cd = c > d ? c : d;
      map[i] = ab > cd ? ab : cd;
    }
    places[count++] = i;
  }
  return count;
}

/**
 * The ring-against-core test: opposite points of a ring are averaged, so that a plane of tone cancels, and the core
 * is held against the weakest of four such pairs, so that a line or an edge, which some pair follows, does not answer.
 */
export function ringContrast({ width, height, data }: LumaPlane, { straight, slanted }: Ring): RingContrast {
  const map = new Int16Array(width * height);
  const places = new Int32Array(width * height);
  const down = straight * width;
  const falling = slanted * width + slanted;
  const rising = slanted * width - slanted;
  let count = 0;
  for (let y = straight; y < height - straight; y++) {
    const [from, end] = [y * width + straight, (y + 1) * width - straight];
    count = contrastRow(data, map, places, count, from, end, straight, down, falling, rising);
  }
  return { map, places: places.subarray(0, count) };
}
