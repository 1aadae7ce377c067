/** Places at even steps along a line, as columns of a table. */
export interface LineStations {
  /** How many there are; the columns are longer. */
  count: number;
  x: Float64Array;
  y: Float64Array;
  /** Unit vector across the line. */
  nx: Float64Array;
  ny: Float64Array;
}

/** Lines are measured at every so many pixels along. */
const EVERY = 1.5;

/** One table stands for all lines in turn, each of which is looked at at once. */
const table: LineStations = { count: 0, ...columns(256) };

function columns(room: number): Omit<LineStations, 'count'> {
  const column = (): Float64Array => new Float64Array(room);
  return { x: column(), y: column(), nx: column(), ny: column() };
}

/**
 * @param x columns of the places of a line, `y` the other; in pixels
 * @param whole length of the line
 * @param margin stations nearer than this to the border of the plane are left out
 * @returns a table that stands until the next call
 */
export function stationsAlong(
  x: Float64Array,
  y: Float64Array,
  whole: number,
  { width, height }: { readonly width: number; readonly height: number },
  margin: number,
): LineStations {
  const room = Math.ceil(whole / EVERY) + 1;
  if (table.x.length < room) Object.assign(table, columns(2 * room));
  let count = 0;
  let behind = 0;
  for (let i = 1; i < x.length; i++) {
    const stepX = x[i] - x[i - 1];
    const stepY = y[i] - y[i - 1];
    const length = Math.sqrt(stepX * stepX + stepY * stepY);
    if (length === 0) continue;
    // The direction is taken over a few points: a crest wavers by a fraction of a pixel.
    const from = Math.max(0, i - 3);
    const to = Math.min(x.length - 1, i + 2);
    const dx = x[to] - x[from];
    const dy = y[to] - y[from];
    const span = Math.sqrt(dx * dx + dy * dy) || 1;
    for (let at = EVERY - behind; at <= length; at += EVERY) {
      const t = at / length;
      const px = x[i - 1] + t * stepX;
      const py = y[i - 1] + t * stepY;
      if (!(px > margin && py > margin && px < width - margin && py < height - margin)) continue;
      table.x[count] = px;
      table.y[count] = py;
      table.nx[count] = -dy / span;
      table.ny[count] = dx / span;
      count++;
    }
    behind = (behind + length) % EVERY;
  }
  table.count = count;
  return table;
}
