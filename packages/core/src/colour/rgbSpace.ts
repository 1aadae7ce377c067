import type { Transfer } from '../light/transfer.ts';
import { SRGB_TRANSFER } from '../light/transfer.ts';

/** Three rows of three. */
export type Matrix = readonly [
  readonly [number, number, number],
  readonly [number, number, number],
  readonly [number, number, number],
];
type Triple = readonly [number, number, number];

/** What the encoded values of three channels mean as colour. */
export interface RgbSpace {
  /** Encoded values to light, for each channel. */
  readonly transfer: readonly Transfer[];
  /** Light of the three channels to CIE XYZ of the profile connection space, whose white is D50 (ICC.1:2022, 6.3). */
  readonly toXyz: Matrix;
}

const D50: Triple = [0.9642, 1, 0.8249];
/** White of IEC 61966-2-1 and SMPTE EG 432-1. */
const D65 = [0.3127, 0.329] as const;
/** Cone responses of the Bradford adaptation (ICC.1:2022, annex E.3). */
const BRADFORD: Matrix = [
  [0.8951, 0.2664, -0.1614],
  [-0.7502, 1.7135, 0.0367],
  [0.0389, -0.0685, 1.0296],
];

export const times = (m: Matrix, [x, y, z]: Triple): Triple => [
  m[0][0] * x + m[0][1] * y + m[0][2] * z,
  m[1][0] * x + m[1][1] * y + m[1][2] * z,
  m[2][0] * x + m[2][1] * y + m[2][2] * z,
];

const column = (m: Matrix, c: 0 | 1 | 2): Triple => [m[0][c], m[1][c], m[2][c]];

const ofColumns = (a: Triple, b: Triple, c: Triple): Matrix => [
  [a[0], b[0], c[0]],
  [a[1], b[1], c[1]],
  [a[2], b[2], c[2]],
];

export const product = (a: Matrix, b: Matrix): Matrix =>
  ofColumns(times(a, column(b, 0)), times(a, column(b, 1)), times(a, column(b, 2)));

/** The inverse by its adjugate. Colour spaces are never near to singular. */
export function inverse(m: Matrix): Matrix {
  const [[a, b, c], [d, e, f], [g, h, i]] = m;
  const [A, B, C] = [e * i - f * h, f * g - d * i, d * h - e * g];
  const k = 1 / (a * A + b * B + c * C);
  return [
    [A * k, (c * h - b * i) * k, (b * f - c * e) * k],
    [B * k, (a * i - c * g) * k, (c * d - a * f) * k],
    [C * k, (b * g - a * h) * k, (a * e - b * d) * k],
  ];
}

const xyzOf = ([x, y]: readonly [number, number]): Triple => [x / y, 1, (1 - x - y) / y];

/** A space by the chromaticities of its primaries and its white, adapted to D50 after Bradford. */
function spaceOf(
  primaries: readonly [
    red: readonly [number, number],
    green: readonly [number, number],
    blue: readonly [number, number],
  ],
  white: readonly [number, number],
  transfer: Transfer,
): RgbSpace {
  const [red, green, blue] = primaries;
  const bare = ofColumns(xyzOf(red), xyzOf(green), xyzOf(blue));
  const [r, g, b] = times(inverse(bare), xyzOf(white));
  const own = product(bare, [
    [r, 0, 0],
    [0, g, 0],
    [0, 0, b],
  ]);
  const [from, to] = [times(BRADFORD, xyzOf(white)), times(BRADFORD, D50)];
  const adapt = product(
    product(inverse(BRADFORD), [
      [to[0] / from[0], 0, 0],
      [0, to[1] / from[1], 0],
      [0, 0, to[2] / from[2]],
    ]),
    BRADFORD,
  );
  return { transfer: [transfer, transfer, transfer], toXyz: product(adapt, own) };
}

/** IEC 61966-2-1. */
export const SRGB_SPACE = spaceOf(
  [
    [0.64, 0.33],
    [0.3, 0.6],
    [0.15, 0.06],
  ],
  D65,
  SRGB_TRANSFER,
);

/** Display P3: the primaries of SMPTE EG 432-1 with the curve of sRGB (W3C CSS Color 4, 10.4). */
export const DISPLAY_P3_SPACE = spaceOf(
  [
    [0.68, 0.32],
    [0.265, 0.69],
    [0.15, 0.06],
  ],
  D65,
  SRGB_TRANSFER,
);
