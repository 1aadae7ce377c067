import type { Rect } from '@fennip/core/raster';

/** Tells which of several answers is to be shown, when they come late and out of order. */
export interface NewestShown {
  /** Numbers what is asked for. */
  ask(): number;
  /**
   * Whether an answer is to be shown: it is of the place that is wanted now, and newer than what is shown. The next may
   * have been asked for meanwhile, and may take long.
   */
  takes(number: number, of: Rect, wanted: Rect | null): boolean;
  /** True if what is shown is another place than the wanted one. */
  isElsewhere(wanted: Rect | null): boolean;
}

const keyOf = (rect: Rect | null): string =>
  rect ? `${rect.left} ${rect.top} ${rect.width} ${rect.height}` : '';

export function createNewestShown(): NewestShown {
  let [asked, shown, place] = [0, 0, ''];
  return {
    ask: () => ++asked,
    takes(number, of, wanted) {
      if (number <= shown || keyOf(of) !== keyOf(wanted)) return false;
      [shown, place] = [number, keyOf(of)];
      return true;
    },
    isElsewhere: (wanted) => place !== keyOf(wanted),
  };
}
