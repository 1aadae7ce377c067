import { kernels, layOut, takeFloats } from '../kernels/kernels.ts';
import type { PictureShape, Raster } from '../raster/raster.ts';
import { valuesOf } from '../raster/values.ts';
import { LIGHT_OF_XYZ } from './lab.ts';
import { ROOT_STEPS, lightTablesOf, toLight } from './lightTable.ts';

/** Linear light of every pixel in three planes, row after row without gaps; grey stands for all three. */
export function lightPlanes(raster: Raster, transfer?: PictureShape['transfer']): Float32Array[] {
  const values = valuesOf(raster);
  const tables = lightTablesOf(values.length, transfer);
  const planes = values.map((plane, c) => toLight(plane, tables[c]));
  return planes.length === 3 ? planes : [planes[0], planes[0], planes[0]];
}

/** Light in code values, not rounded, one plane for each colour channel that is wanted. @param top the largest code */
export const encodedPlanes = (
  light: readonly Float32Array[],
  channels: number,
  top: number,
  transfer?: PictureShape['transfer'],
): Float32Array[] =>
  lightTablesOf(channels, transfer).map(({ codes }, c) => {
    const { length } = light[c];
    const [values, at] = layOut([light[c], codes]);
    const { encode, scale } = kernels();
    encode(values, length, at, ROOT_STEPS);
    scale(values, top, length);
    return takeFloats(values, length);
  });

/** Loops over three planes of light or L*a*b* that lie in the compiled loops' memory, and what is made of them. */
function inPlace(
  planes: readonly Float32Array[],
  more: readonly Float32Array[],
  work: (planes: readonly [number, number, number], count: number, more: readonly number[]) => void,
): Float32Array[] {
  const [first, second, third, ...others] = layOut([...planes, ...more]);
  const count = planes[0].length;
  work([first, second, third], count, others);
  return [first, second, third].map((place) => takeFloats(place, count));
}

/** Light times two to the power of stops, weighed by how much a pixel's lightness belongs to a range. */
export const exposed = (
  light: readonly Float32Array[],
  stops: number,
  range: 'all' | 'shadows' | 'midtones' | 'highlights',
): Float32Array[] =>
  inPlace(light, [], (places, count) => {
    kernels().expose(...places, count, stops, ['all', 'shadows', 'midtones', 'highlights'].indexOf(range));
  });

/** {@link labOf} of planes of light. */
export const labOfPlanes = (light: readonly Float32Array[]): Float32Array[] =>
  inPlace(light, [], (places, count) => {
    kernels().toLab(...places, count);
  });

/** How L*a*b* is moved; lightness is kept from falling below 0. */
export interface LabMove {
  readonly lightness: { readonly times: number; readonly plus: number };
  /** What a and b become, row after row of a matrix of two. */
  readonly turn: readonly [number, number, number, number];
  readonly plus: readonly [a: number, b: number];
  /** Added to lightness, pixel by pixel; nothing where it is missing. */
  readonly added?: Float32Array;
}

/** Light of planes whose L*a*b* is moved. */
export const movedLab = (
  light: readonly Float32Array[],
  { lightness, turn, plus, added }: LabMove,
): Float32Array[] =>
  inPlace(
    light,
    [
      Float32Array.of(lightness.times, lightness.plus, ...turn, ...plus),
      LIGHT_OF_XYZ,
      ...(added ? [added] : []),
    ],
    (places, count, [by, matrix, plane = 0]) => {
      const { toLab, moveLab, fromLab } = kernels();
      toLab(...places, count);
      moveLab(...places, count, plane, by);
      fromLab(...places, count, matrix);
    },
  );

/** Lightness, a and b of every pixel, row after row. Grey has no a and b. */
export const labPlanes = (raster: Raster, transfer?: PictureShape['transfer']): Float32Array[] =>
  labOfPlanes(lightPlanes(raster, transfer));
