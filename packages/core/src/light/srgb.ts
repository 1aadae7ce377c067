/**
 * The transfer of sRGB as IEC 61966-2-1:1999 gives it, between encoded values and linear light, both 0 to 1.
 * The decoding threshold is the standard's 0.04045.
 */
export function srgbToLinear(encoded: number): number {
  return encoded <= 0.04045 ? encoded / 12.92 : ((encoded + 0.055) / 1.055) ** 2.4;
}

/** The inverse of {@link srgbToLinear}; values beyond 0 to 1 are carried on, not cut. */
export function linearToSrgb(linear: number): number {
  return linear <= 0.0031308 ? linear * 12.92 : 1.055 * linear ** (1 / 2.4) - 0.055;
}
