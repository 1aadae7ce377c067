import { inverse } from './rgbSpace.ts';

/** Light of the red, green and blue primaries as CIE XYZ, white at Y = 1 (IEC 61966-2-1:1999, four decimals). */
const TO_XYZ = [
  [0.4124, 0.3576, 0.1805],
  [0.2126, 0.7152, 0.0722],
  [0.0193, 0.1192, 0.9505],
] as const;
/** White is what equal light of all three primaries gives, so that grey has no colour at all (D65). */
const WHITE = TO_XYZ.map(([r, g, b]) => r + g + b);

const FROM_XYZ = inverse(TO_XYZ);

/** Where the cube root gives way to a straight line: 6/29, and the slope of that line. (CIE 15:2004, 8.2.1.1.) */
const KNEE = 6 / 29;
const SLOPE = 3 * KNEE * KNEE;

const compress = (t: number): number => (t > KNEE ** 3 ? Math.cbrt(t) : t / SLOPE + 4 / 29);
const expand = (f: number): number => (f > KNEE ? f ** 3 : SLOPE * (f - 4 / 29));

/** CIE L*a*b*: lightness 0 to 100, green to red, blue to yellow. */
export type Lab = readonly [lightness: number, a: number, b: number];

/**
 * CIE 1976 L*a*b* of linear light in the primaries of sRGB, white D65. Other primaries give other colours, evenly
 * wrong: differences between places of one picture stay useful.
 * (CIE 15:2004, Colorimetry.)
 *
 * @param red, green, blue linear light, 0 to 1
 */
export function labOf(red: number, green: number, blue: number): Lab {
  const fx = compress((TO_XYZ[0][0] * red + TO_XYZ[0][1] * green + TO_XYZ[0][2] * blue) / WHITE[0]);
  const fy = compress((TO_XYZ[1][0] * red + TO_XYZ[1][1] * green + TO_XYZ[1][2] * blue) / WHITE[1]);
  const fz = compress((TO_XYZ[2][0] * red + TO_XYZ[2][1] * green + TO_XYZ[2][2] * blue) / WHITE[2]);
  return [116 * fy - 16, 500 * (fx - fy), 200 * (fy - fz)];
}

/** Linear light in the primaries of sRGB; below 0 or above 1 where the colour lies outside of them. */
export function lightOfLab([lightness, a, b]: Lab): [red: number, green: number, blue: number] {
  const fy = (lightness + 16) / 116;
  const x = WHITE[0] * expand(fy + a / 500);
  const y = WHITE[1] * expand(fy);
  const z = WHITE[2] * expand(fy - b / 200);
  const row = ([p, q, r]: readonly number[]): number => p * x + q * y + r * z;
  return [row(FROM_XYZ[0]), row(FROM_XYZ[1]), row(FROM_XYZ[2])];
}

/** Light of X, Y and Z over those of white, row after row: the last step of {@link lightOfLab}, for compiled loops. */
export const LIGHT_OF_XYZ = Float32Array.from(
  FROM_XYZ.flatMap((row) => row.map((value, k) => value * WHITE[k])),
);
