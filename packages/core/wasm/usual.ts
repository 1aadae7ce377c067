// What is usual round about: sizes of differences, added up in the square cells of a plane. All offsets are bytes, samples
// are 16-bit numbers up to 32,767; sums and counts are 64-bit floats, one for each cell, row after row of `columns`.

// The cell that is added to: set by `beginCells`, read by `addTo`.
let cellSums: usize = 0;
let cellCounts: usize = 0;
let cell: i32 = 0;
let cellEnd: i32 = 0;
let sum: i64 = 0;
let count: i32 = 0;

function store64(place: usize, added: f64): void {
  store<f64>(place, load<f64>(place) + added);
}

function endCell(parts: f64): void {
  store64(cellSums + (cell << 3), <f64>sum / parts);
  store64(cellCounts + (cell << 3), <f64>count);
  sum = 0;
  count = 0;
}

function beginRow(first: i32, x: i32, side: i32, sums: usize, counts: usize): void {
  cellSums = sums;
  cellCounts = counts;
  cell = first + x / side;
  cellEnd = (x / side + 1) * side;
}

function step(at: usize, by: i32, here: i32): i32 {
  return abs(<i32>load<u16>(at + by) - here);
}

/**
 * Sizes of the steps in four directions, at every so many pixels across and down.
 *
 * @param reach pixels at the borders that are left out
 * @param east how far a step leads, in bytes; `south`, `west` and `north` alike
 */
export function sumSteps(
  data: usize,
  width: i32,
  height: i32,
  reach: i32,
  every: i32,
  side: i32,
  columns: i32,
  east: i32,
  south: i32,
  west: i32,
  north: i32,
  sums: usize,
  counts: usize,
): void {
  for (let y = reach; y < height - reach; y += every) {
    beginRow((y / side) * columns, reach, side, sums, counts);
    for (let x = reach; x < width - reach; x += every) {
      if (x >= cellEnd) {
        endCell(1);
        cell++;
        cellEnd += side;
      }
      const at = data + ((y * width + x) << 1);
      const here = <i32>load<u16>(at);
      sum += step(at, east, here) + step(at, south, here) + step(at, west, here) + step(at, north, here);
      count += 4;
    }
    if (width > 2 * reach) endCell(1);
  }
}

function opposite(at: usize, by: i32): i32 {
  return <i32>load<u16>(at - by) + <i32>load<u16>(at + by);
}

/** Sizes of what the ring-against-core test sees, whatever its sign; as for {@link ringContrast}. */
export function sumRings(
  data: usize,
  width: i32,
  height: i32,
  straight: i32,
  slanted: i32,
  every: i32,
  side: i32,
  columns: i32,
  sums: usize,
  counts: usize,
): void {
  const across = straight << 1;
  const down = (straight * width) << 1;
  const falling = (slanted * width + slanted) << 1;
  const rising = (slanted * width - slanted) << 1;
  for (let y = straight; y < height - straight; y += every) {
    beginRow((y / side) * columns, straight, side, sums, counts);
    for (let x = straight; x < width - straight; x += every) {
      if (x >= cellEnd) {
        // Four pairs are added up; each is twice a contrast.
        endCell(4);
        cell++;
        cellEnd += side;
      }
      const at = data + ((y * width + x) << 1);
      const ring = opposite(at, across) + opposite(at, down) + opposite(at, falling) + opposite(at, rising);
      sum += abs(ring - ((<i32>load<u16>(at)) << 3));
      count++;
    }
    if (width > 2 * straight) endCell(4);
  }
}

/** Sizes of the curvature across and of that down. */
export function sumBends(
  data: usize,
  width: i32,
  height: i32,
  every: i32,
  side: i32,
  columns: i32,
  sums: usize,
  counts: usize,
): void {
  const stride = width << 1;
  for (let y = 1; y < height - 1; y += every) {
    beginRow((y / side) * columns, 1, side, sums, counts);
    for (let x = 1; x < width - 1; x += every) {
      if (x >= cellEnd) {
        endCell(1);
        cell++;
        cellEnd += side;
      }
      const at = data + ((y * width + x) << 1);
      const twice = (<i32>load<u16>(at)) << 1;
      sum += abs(opposite(at, 2) - twice) + abs(opposite(at, stride) - twice);
      count += 2;
    }
    if (width > 2) endCell(1);
  }
}
