import { RasterError } from '../errors.ts';
import { linearToSrgb, srgbToLinear } from './srgb.ts';

/**
 * How a channel's encoded values stand for light: the curves of ICC.1:2022 (10.6 curveType, 10.18
 * parametricCurveType) and of IEC 61966-2-1. Values and light are 0 to 1.
 */
export type Transfer =
  | { readonly kind: 'sRGB' }
  /** `light = value ** gamma`. */
  | { readonly kind: 'gamma'; readonly gamma: number }
  /** `(a v + b) ** g + e` from `d` up, `c v + f` below. */
  | {
      readonly kind: 'parametric';
      readonly g: number;
      readonly a: number;
      readonly b: number;
      readonly c: number;
      readonly d: number;
      readonly e: number;
      readonly f: number;
    }
  /** Light at evenly spaced values, straight between them; rising. */
  | { readonly kind: 'table'; readonly light: readonly number[] };

/** What is taken for a picture without a profile. */
export const SRGB_TRANSFER: Transfer = { kind: 'sRGB' };

function tableAt(light: readonly number[], value: number): number {
  const place = Math.min(1, Math.max(0, value)) * (light.length - 1);
  const index = Math.min(light.length - 2, Math.floor(place));
  return light[index] + (place - index) * (light[index + 1] - light[index]);
}

/** Linear light of an encoded value, both 0 to 1. */
export function lightOf(transfer: Transfer, value: number): number {
  switch (transfer.kind) {
    case 'sRGB':
      return srgbToLinear(value);
    case 'gamma':
      return value ** transfer.gamma;
    case 'parametric': {
      const { g, a, b, c, d, e, f } = transfer;
      return value >= d ? Math.max(0, a * value + b) ** g + e : c * value + f;
    }
    case 'table':
      return tableAt(transfer.light, value);
  }
}

/** Light by code and back, for loops over pixels. */
export interface TransferTable {
  /** Linear light of every code value, 0 to `top`. */
  readonly light: Float32Array;
  /** The code value of a light, not rounded; beyond 0 to 1 it is the nearest end. */
  encode(light: number): number;
}

/** Finest step of the tables: codes between these are read off straight. */
const ENCODE_STEPS = 4096;

/**
 * Tables for one channel.
 * @param top the largest code value, 255 or 65535
 * @throws RasterError when the curve does not rise
 */
export function transferTable(transfer: Transfer, top: number): TransferTable {
  const light = Float32Array.from({ length: top + 1 }, (_, code) => lightOf(transfer, code / top));
  for (let code = 1; code <= top; code++)
    if (!(light[code] >= light[code - 1])) throw new RasterError('a transfer curve must rise');
  if (transfer.kind === 'sRGB')
    return { light, encode: (value) => top * linearToSrgb(Math.min(1, Math.max(0, value))) };
  return { light, encode: searchIn(light, top) };
}

/** The place of a light in a rising table: a coarse index by square root, then halving. */
function searchIn(light: Float32Array, top: number): (value: number) => number {
  const first = new Uint32Array(ENCODE_STEPS + 2);
  for (let step = 0, code = 0; step <= ENCODE_STEPS + 1; step++) {
    while (code < top && light[code + 1] < (step / ENCODE_STEPS) ** 2) code++;
    first[step] = code;
  }
  return (value) => {
    if (value <= light[0]) return 0;
    if (value >= light[top]) return top;
    const step = Math.floor(Math.sqrt(value) * ENCODE_STEPS);
    let low = first[Math.max(0, step - 1)];
    let high = Math.min(top, first[Math.min(ENCODE_STEPS + 1, step + 1)] + 1);
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if (light[middle] <= value) low = middle;
      else high = middle;
    }
    const gap = light[high] - light[low];
    return gap > 0 ? low + (value - light[low]) / gap : low;
  };
}

const tables = new Map<string, TransferTable>();

/** {@link transferTable}, worked out once for each curve: the tables hold nothing but the curve. */
export function sharedTransferTable(transfer: Transfer, top: number): TransferTable {
  const key = `${top}${JSON.stringify(transfer)}`;
  let table = tables.get(key);
  if (!table) {
    table = transferTable(transfer, top);
    tables.set(key, table);
  }
  return table;
}
