/** A disc with a soft border, a little out of round. Pixels. */
export interface Disc {
  readonly x: number;
  readonly y: number;
  /** Radius at half the depth. */
  readonly r: number;
  /** Width of the border over the radius, 0 to 1. */
  readonly softness: number;
  /** Longest over mean radius, 1 for round. */
  readonly stretch: number;
  /** Direction of the longest radius, radians. */
  readonly angle: number;
}

/** How much of the disc lies on a point, 0 to 1: the shadow of a flat particle in light from a round opening. */
export function discAt(disc: Disc, x: number, y: number): number {
  const [dx, dy] = [x - disc.x, y - disc.y];
  const [cos, sin] = [Math.cos(disc.angle), Math.sin(disc.angle)];
  const along = (dx * cos + dy * sin) / disc.stretch;
  const across = (dy * cos - dx * sin) * disc.stretch;
  const distance = Math.sqrt(along * along + across * across) / disc.r;
  const border = Math.max(disc.softness, 0.7 / disc.r);
  const t = Math.min(1, Math.max(0, (1 + border - distance) / (2 * border)));
  return t * t * (3 - 2 * t);
}

/** Calls back for every pixel that a disc touches. */
export function overDisc(
  disc: Disc,
  width: number,
  height: number,
  visit: (index: number, amount: number) => void,
): void {
  const reach = disc.r * disc.stretch * (1 + Math.max(disc.softness, 0.7 / disc.r)) + 1;
  for (let y = Math.max(0, Math.floor(disc.y - reach)); y < Math.min(height, disc.y + reach); y++) {
    for (let x = Math.max(0, Math.floor(disc.x - reach)); x < Math.min(width, disc.x + reach); x++) {
      const amount = discAt(disc, x + 0.5, y + 0.5);
      if (amount > 0) visit(y * width + x, amount);
    }
  }
}
