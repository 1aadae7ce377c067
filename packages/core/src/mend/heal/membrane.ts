/** Known values with their weights on a grid; several channels share the weights. */
interface Grid {
  readonly width: number;
  readonly height: number;
  readonly weight: Float32Array;
  readonly values: readonly Float32Array[];
}

/** How firmly a known value holds the membrane: lower lets neighbours average their noise, higher follows each. */
const HOLD = 0.5;
/** Sweeps on each level; the level above has settled all that is smooth, so few are left to do. */
const SWEEPS = 6;
const COARSEST_SIDE = 4;

/** Merges two by two cells: weights add up, values are their weighted mean. */
function coarsen(grid: Grid): Grid {
  const width = Math.ceil(grid.width / 2);
  const height = Math.ceil(grid.height / 2);
  const weight = new Float32Array(width * height);
  const values = grid.values.map(() => new Float32Array(width * height));
  for (let y = 0; y < grid.height; y++) {
    for (let x = 0; x < grid.width; x++) {
      const from = y * grid.width + x;
      const amount = grid.weight[from];
      if (amount === 0) continue;
      const onto = (y >> 1) * width + (x >> 1);
      weight[onto] += amount;
      for (let c = 0; c < values.length; c++) values[c][onto] += amount * grid.values[c][from];
    }
  }
  for (let i = 0; i < weight.length; i++)
    if (weight[i] > 0) for (let c = 0; c < values.length; c++) values[c][i] /= weight[i];
  return { width, height, weight, values };
}

function weightedMean(values: Float32Array, weight: Float32Array): number {
  let sum = 0;
  let total = 0;
  for (let i = 0; i < weight.length; i++) {
    sum += weight[i] * values[i];
    total += weight[i];
  }
  return total > 0 ? sum / total : 0;
}

/** Bilinear enlargement by two, cell centres on cell centres. */
function enlarge(
  coarse: Float32Array,
  coarseWidth: number,
  coarseHeight: number,
  width: number,
  height: number,
): Float32Array {
  const fine = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    const nearRow = (y >> 1) * coarseWidth;
    const farRow = Math.min(coarseHeight - 1, Math.max(0, (y >> 1) + (y % 2 ? 1 : -1))) * coarseWidth;
    for (let x = 0; x < width; x++) {
      const near = x >> 1;
      const far = Math.min(coarseWidth - 1, Math.max(0, near + (x % 2 ? 1 : -1)));
      fine[y * width + x] =
        0.5625 * coarse[nearRow + near] +
        0.1875 * (coarse[nearRow + far] + coarse[farRow + near]) +
        0.0625 * coarse[farRow + far];
    }
  }
  return fine;
}

/** The mean of a cell's neighbours and of its own value, weighted; nothing flows over the border. */
function heldBy(
  membrane: Float32Array,
  known: Float32Array,
  { weight, width, height }: Grid,
  x: number,
  y: number,
): number {
  const i = y * width + x;
  const hold = HOLD * weight[i];
  let sum = hold * known[i];
  let total = hold;
  if (x > 0) {
    sum += membrane[i - 1];
    total++;
  }
  if (x + 1 < width) {
    sum += membrane[i + 1];
    total++;
  }
  if (y > 0) {
    sum += membrane[i - width];
    total++;
  }
  if (y + 1 < height) {
    sum += membrane[i + width];
    total++;
  }
  return total > 0 ? sum / total : 0;
}

/** Gauss-Seidel on `sum over neighbours (m - n)^2 + HOLD * weight * (m - value)^2`. */
function relax(membrane: Float32Array, known: Float32Array, grid: Grid): void {
  const { width, height } = grid;
  for (let sweep = 0; sweep < SWEEPS; sweep++)
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) membrane[y * width + x] = heldBy(membrane, known, grid, x, y);
}

/**
 * The smoothest surface through weighted known values: a thin membrane that is free where the weight is 0.
 * Coarse to fine, so that time grows with the area alone.
 * (The membrane of Perez, Gangnet, Blake 2003, with soft instead of fixed boundary values.)
 *
 * @param values one array of `width * height` samples for each channel, any unit
 * @param weight 0 (unknown) and up, shared by the channels
 * @returns one array for each channel; zeros where nothing at all is known
 */
export function membrane(
  values: readonly Float32Array[],
  weight: Float32Array,
  width: number,
  height: number,
): Float32Array[] {
  return solve({ width, height, weight, values });
}

function solve(grid: Grid): Float32Array[] {
  const { width, height, values, weight } = grid;
  if (Math.min(width, height) <= COARSEST_SIDE && Math.max(width, height) <= 4 * COARSEST_SIDE) {
    return values.map((known) => {
      const surface = new Float32Array(known.length).fill(weightedMean(known, weight));
      for (let round = 0; round < 4; round++) relax(surface, known, grid);
      return surface;
    });
  }
  const coarse = coarsen(grid);
  return solve(coarse).map((surface, channel) => {
    const fine = enlarge(surface, coarse.width, coarse.height, width, height);
    relax(fine, values[channel], grid);
    return fine;
  });
}
