/** Papers that a delivery can be made for: longer and shorter side in inches. A4 by ISO 216. */
export const PAPERS = {
  '4x6': [6, 4],
  '5x7': [7, 5],
  '8x10': [10, 8],
  '11x14': [14, 11],
  A4: [297 / 25.4, 210 / 25.4],
  A3: [420 / 25.4, 297 / 25.4],
} as const;
export type Paper = keyof typeof PAPERS;
