import { SRGB_TRANSFER, sharedTransferTable } from '../light/transfer.ts';
import type { Transfer } from '../light/transfer.ts';
import type { PictureShape } from '../raster/raster.ts';
import { holding, kernels, layOut, takeFloats } from '../kernels/kernels.ts';

/** Values of 0 to 1 are read from tables in so many steps: one for every code of 16 bit. */
export const TABLE_TOP = 65535;
/** Steps of the way back, evenly over the square root of light: eyes and curves are steep in the dark. */
export const ROOT_STEPS = 16384;

/** One channel's encoded values in light and back, both 0 to 1, by tables. */
export interface LightTable {
  readonly light: Float32Array;
  /** Encoded values at even steps of the square root of light, one more than there are steps. */
  readonly codes: Float32Array;
}

const known = new Map<string, LightTable>();

function lightTable(transfer: Transfer): LightTable {
  const key = JSON.stringify(transfer);
  const made = known.get(key);
  if (made) return made;
  const { light, encode } = sharedTransferTable(transfer, TABLE_TOP);
  const codes = Float32Array.from(
    { length: ROOT_STEPS + 2 },
    (_, k) => encode(Math.min(1, k / ROOT_STEPS) ** 2) / TABLE_TOP,
  );
  const table = { light, codes };
  known.set(key, table);
  return table;
}

/** Light and codes of each of a picture's channels. */
export const lightTablesOf = (channels: number, transfer: PictureShape['transfer']): LightTable[] =>
  Array.from({ length: channels }, (_, c) => lightTable(transfer?.[c] ?? SRGB_TRANSFER));

/** The encoded value of a light; beyond 0 to 1 it is the nearest end. Off by less than a hundredth of a code of 16 bit. */
export function encodedLight(value: number, codes: Float32Array): number {
  if (value <= 0) return codes[0];
  if (value >= 1) return codes[ROOT_STEPS];
  const place = Math.sqrt(value) * ROOT_STEPS;
  const index = Math.floor(place);
  return codes[index] + (place - index) * (codes[index + 1] - codes[index]);
}

/** What a table of {@link TABLE_TOP} and one more values has for every value of 0 to 1; in place, in held memory. */
export function lookUpHeld(place: number, count: number, table: Float32Array): void {
  const [at] = layOut([table]);
  kernels().lookUp(place, count, at, TABLE_TOP);
}

/** Linear light in encoded values of 0 to 1; in place, in held memory. */
export function encodeHeld(place: number, count: number, { codes }: LightTable): void {
  const [at] = layOut([codes]);
  kernels().encode(place, count, at, ROOT_STEPS);
}

/** What a table of {@link TABLE_TOP} and one more values has for every value of 0 to 1. */
export const throughTable = (plane: Float32Array, table: Float32Array): Float32Array =>
  holding([plane], (place) => {
    lookUpHeld(place, plane.length, table);
    return takeFloats(place, plane.length);
  });

/** An encoded plane of 0 to 1 in linear light. */
export const toLight = (plane: Float32Array, { light }: LightTable): Float32Array =>
  throughTable(plane, light);
