/** How far to either side a crease lights the sheet, at most; in pixels. */
export const RELIEF_REACH = 16;

/** What lights or shades more than this, in natural logarithms of light, is no bend of the sheet. */
export const MOST_RELIEF = 0.7;

/** The relief at a distance across, straight between its whole pixels; 0 beyond its ends. */
export function reliefAt(relief: readonly number[], across: number): number {
  const place = across + (relief.length - 1) / 2;
  const before = Math.floor(place);
  if (before < 0 || before + 1 >= relief.length) return 0;
  return relief[before] + (place - before) * (relief[before + 1] - relief[before]);
}
