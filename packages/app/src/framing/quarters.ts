/** A quarter turn, in radians. */
export const QUARTER = Math.PI / 2;

/** How many quarter turns an angle is nearest to. */
export const quartersOf = (angle: number): number => Math.round(angle / QUARTER);

/** An angle of a whole turn or less, between -180 and 180 degrees. */
export function withinTurn(angle: number): number {
  const turned = angle % (4 * QUARTER);
  if (turned > 2 * QUARTER) return turned - 4 * QUARTER;
  return turned <= -2 * QUARTER ? turned + 4 * QUARTER : turned;
}
