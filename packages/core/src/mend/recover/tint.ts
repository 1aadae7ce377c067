/**
 * A stain: a smooth tint over what lies under it. Densities (negative logarithms of transmission) of each channel on a
 * coarse grid of control points that covers the target's bounding box, straight between them.
 */
export interface Tint {
  readonly kind: 'tint';
  readonly left: number;
  readonly top: number;
  /** Pixels between control points. */
  readonly step: number;
  readonly columns: number;
  readonly rows: number;
  /** One list for each colour channel, row after row; 0 lets all light through, above dims, below brightens. */
  readonly density: readonly (readonly number[])[];
}

/** The density at a pixel's centre, straight between the control points. */
export function tintAt(tint: Tint, channel: number, x: number, y: number): number {
  const { left, top, step, columns, rows } = tint;
  const density = tint.density[channel];
  const fx = Math.min(columns - 1, Math.max(0, (x - left) / step));
  const fy = Math.min(rows - 1, Math.max(0, (y - top) / step));
  const [cx, cy] = [Math.min(columns - 2, Math.floor(fx)), Math.min(rows - 2, Math.floor(fy))];
  const [ax, ay] = [fx - cx, fy - cy];
  const at = cy * columns + cx;
  return (
    (1 - ay) * ((1 - ax) * density[at] + ax * density[at + 1]) +
    ay * ((1 - ax) * density[at + columns] + ax * density[at + columns + 1])
  );
}
