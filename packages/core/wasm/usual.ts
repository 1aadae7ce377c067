// What is usual round about: sizes of differences, added up in the square cells of a plane. All offsets are bytes, samples
// are 16-bit numbers up to 32,767; sums and counts are 64-bit floats, one for each cell, row after row of `columns`.

function addTo(place: usize, added: f64): void {
  store<f64>(place, load<f64>(place) + added);
}

/** Adds to a cell what was seen in a row of it. */
function addToCell(sums: usize, counts: usize, cell: i32, sum: f64, count: i32): void {
  addTo(sums + ((<usize>cell) << 3), sum);
  addTo(counts + ((<usize>cell) << 3), <f64>count);
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
    const cells = (y / side) * columns;
    for (let x = reach; x < width - reach;) {
      const column = x / side;
      const end = min(width - reach, (column + 1) * side);
      let sum: i64 = 0;
      let count = 0;
      for (; x < end; x += every) {
        const at = data + ((y * width + x) << 1);
        const here = <i32>load<u16>(at);
        sum += step(at, east, here) + step(at, south, here) + step(at, west, here) + step(at, north, here);
        count += 4;
      }
      addToCell(sums, counts, cells + column, <f64>sum, count);
    }
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
    const cells = (y / side) * columns;
    for (let x = straight; x < width - straight;) {
      const column = x / side;
      const end = min(width - straight, (column + 1) * side);
      let sum: i64 = 0;
      let count = 0;
      for (; x < end; x += every) {
        const at = data + ((y * width + x) << 1);
        const ring = opposite(at, across) + opposite(at, down) + opposite(at, falling) + opposite(at, rising);
        sum += abs(ring - ((<i32>load<u16>(at)) << 3));
        count += 1;
      }
      // Four pairs are added up; each is twice a contrast.
      addToCell(sums, counts, cells + column, <f64>sum / 4, count);
    }
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
    const cells = (y / side) * columns;
    for (let x = 1; x < width - 1;) {
      const column = x / side;
      const end = min(width - 1, (column + 1) * side);
      let sum: i64 = 0;
      let count = 0;
      for (; x < end; x += every) {
        const at = data + ((y * width + x) << 1);
        const twice = (<i32>load<u16>(at)) << 1;
        sum += abs(opposite(at, 2) - twice) + abs(opposite(at, stride) - twice);
        count += 2;
      }
      addToCell(sums, counts, cells + column, <f64>sum, count);
    }
  }
}
