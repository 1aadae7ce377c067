import { RasterError } from '../errors.ts';
import type { Depth, Plane } from '../raster/raster.ts';
import { kernels, layOut } from '../kernels/kernels.ts';

/** A part of a plane: `plane[y * stride + x]`. */
export interface PlanePart {
  readonly plane: Plane;
  readonly width: number;
  readonly height: number;
  readonly stride: number;
  readonly depth: Depth;
}

/** Columns that are looked at together: of many more the histograms would not stay near at hand. */
const STRIP = 512;
/** Counts of a column fit into a byte up to this radius. */
export const MOST_MEDIAN_RADIUS = 127;
/** Values of 16 bit are sorted into 512 bins: so many of their bits tell where in its bin one lies. */
const BINNED_16 = 7;

/**
 * The median of the square of `2 radius + 1` pixels around each pixel; beyond the border the nearest pixel counts.
 * Values of 8 bit give exactly the middle one. Those of 16 bit are sorted into 512 bins, and the median is read off
 * straight inside its bin.
 *
 * The histogram of every column is kept from row to row, in classes of 16 values and within each, and a window brings
 * the counts of a class up to date only when the median lies there (Perreault and Hébert 2007). Counts are kept as running
 * sums, so that the place of the median is one comparison of all of them and not a walk along them.
 *
 * @returns code values, row after row without gaps
 * @throws RasterError when the radius is not 1 to 127
 */
export function medianFilter(part: PlanePart, radius: number): Plane {
  if (!(Number.isInteger(radius) && radius >= 1 && radius <= MOST_MEDIAN_RADIUS))
    throw new RasterError(`the radius of a median must be 1 to ${MOST_MEDIAN_RADIUS}, got ${radius}`);
  const { width, height, depth } = part;
  const medians = depth === 8 ? new Uint8Array(width * height) : new Uint16Array(width * height);
  for (let left = 0; left < width; left += STRIP) {
    const strip = Math.min(STRIP, width - left);
    filterStrip(part, radius, left, strip, medians);
  }
  return medians;
}

/** Lays the columns of a strip with what lies around it, sorted into bins, row after row. */
function layBinned(
  { plane, width, height, stride, depth }: PlanePart,
  radius: number,
  left: number,
  binned: Plane,
): void {
  const count = binned.length / height;
  const inner = Math.max(0, radius - left);
  const end = Math.min(count, width - left + radius);
  for (let y = 0; y < height; y++) {
    const onto = y * count;
    const from = y * stride + left - radius;
    if (depth === 8) binned.set(plane.subarray(from + inner, from + end), onto + inner);
    else for (let c = inner; c < end; c++) binned[onto + c] = plane[from + c] >> BINNED_16;
    binned.fill(binned[onto + inner], onto, onto + inner);
    binned.fill(binned[onto + end - 1], onto + end, onto + count);
  }
}

/** Bytes that the kernel works in, for so many columns of values of so many bytes: a table, and for each class its windows and columns. */
const workRoom = (columns: number, bytes: number): number =>
  1024 + 80 + 16 * bytes * (36 + 1 + columns * (1 + 16 * bytes));

function filterStrip(part: PlanePart, radius: number, left: number, strip: number, medians: Plane): void {
  const { width, height, depth } = part;
  const count = strip + 2 * radius;
  const Values = depth === 8 ? Uint8Array : Uint16Array;
  const bytes = Values.BYTES_PER_ELEMENT;
  const [from, work, onto] = layOut([count * height * bytes, workRoom(count, bytes), strip * height * bytes]);
  const { memory, medianBytes, medianShorts } = kernels();
  layBinned(part, radius, left, new Values(memory.buffer, from, count * height));
  (depth === 8 ? medianBytes : medianShorts)(from, count, height, radius, work, onto);
  const rows = new Values(memory.buffer, onto, strip * height);
  for (let y = 0; y < height; y++) medians.set(rows.subarray(y * strip, (y + 1) * strip), y * width + left);
}
