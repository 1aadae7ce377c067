import { cellMeans, createCellSums } from '../ground/cellMeans.ts';
import type { LumaPlane } from '../ground/lumaLevels.ts';
import type { Ring } from './ringContrast.ts';

/** Contrasts are taken at every so many pixels across and down: their mean needs no more. */
const EVERY = 3;
/** Side of the cells that are averaged first, in pixels. */
const CELL = 16;
/** Cells around a place that count: a square of some 50 pixels. */
const AROUND = 1;
/** A contrast that no eye sees, in twice the units of a plane: keeps flat places from dividing by nothing. */
const LEAST_CONTRAST = 40;

function addRow(
  data: Uint16Array,
  row: number,
  width: number,
  { straight, slanted }: Ring,
  sums: Float64Array,
  counts: Float64Array,
  cellRow: number,
): void {
  const down = straight * width;
  const falling = slanted * width + slanted;
  const rising = slanted * width - slanted;
  for (let x = straight; x < width - straight; x += EVERY) {
    const i = row + x;
    const size =
      data[i - straight] +
      data[i + straight] +
      data[i - down] +
      data[i + down] +
      data[i - falling] +
      data[i + falling] +
      data[i - rising] +
      data[i + rising] -
      (data[i] << 3);
    const cell = cellRow + ((x / CELL) | 0);
    // Four pairs are added up; each is twice a contrast.
    sums[cell] += (size < 0 ? -size : size) / 4;
    counts[cell]++;
  }
}

/** Mean size of what the ring-against-core test sees round about, whatever its sign, in twice the units of a plane. */
export function coreUsual(
  { width, height, data }: LumaPlane,
  ring: Ring,
): { at(x: number, y: number): number } {
  const cells = createCellSums(width, height, CELL);
  for (let y = ring.straight; y < height - ring.straight; y += EVERY)
    addRow(data, y * width, width, ring, cells.sums, cells.counts, Math.floor(y / CELL) * cells.columns);
  const means = cellMeans(cells, AROUND, LEAST_CONTRAST);
  return { at: (x, y) => means[Math.floor(y / CELL) * cells.columns + Math.floor(x / CELL)] };
}
