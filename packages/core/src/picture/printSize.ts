/** Sides of a sheet of paper, in inches. */
export interface PaperSize {
  readonly width: number;
  readonly height: number;
}

/** Paper resolutions in pixels per inch: one at which no pixel shows, and one that still passes (common practice). */
export const PRINT_PPI = [300, 240] as const;

/**
 * How large pixels are on paper.
 *
 * @param ppi pixels per inch, above 0
 * @returns inches
 */
export const printSize = (
  pixels: { readonly width: number; readonly height: number },
  ppi: number,
): PaperSize => ({
  width: pixels.width / ppi,
  height: pixels.height / ppi,
});
