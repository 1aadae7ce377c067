import type { Pixels } from '../../raster/pixels.ts';
import type { PictureShape } from '../../raster/raster.ts';
import type { Rect } from '../../raster/rect.ts';
import { growRect, intersectRects } from '../../raster/rect.ts';
import { pictureRect } from '../../raster/window.ts';
import type { Witness, WitnessMap } from './witness.ts';
import { WITNESS_MAPS, WITNESS_STEP } from './witness.ts';
import { witnessInput } from './witnessInput.ts';

/** A byte of a map stands for so much: log-odds from -8 to 8, and logarithms of radii. */
const BYTES_A_UNIT = 16;
const ZERO = 128;

/** A value as a map holds it. */
export const toByte = (value: number): number =>
  Math.max(0, Math.min(255, Math.round(BYTES_A_UNIT * value) + ZERO));

/** As unlikely as a map can say, in log-odds. */
export const UNLIKELIEST = -ZERO / BYTES_A_UNIT;

/** What a net says of a whole picture. */
export interface WitnessMaps {
  /** Half the sides of the picture, rounded up. */
  readonly width: number;
  readonly height: number;
  readonly planes: Readonly<Record<WitnessMap, Uint8Array>>;
}

/** The value of a map at a place of its own. */
export const mapAt = (
  { width, height, planes }: WitnessMaps,
  map: WitnessMap,
  x: number,
  y: number,
): number => {
  const column = Math.max(0, Math.min(width - 1, x));
  const row = Math.max(0, Math.min(height - 1, y));
  return (planes[map][row * width + column] - ZERO) / BYTES_A_UNIT;
};

/** A part of a picture that is looked at by itself, and what is looked at around it. */
interface WitnessTile {
  readonly keep: Rect;
  readonly read: Rect;
}

/** Windows are about as large as this: what is held meanwhile is some hundred megabytes. */
const SIDE = 1024;
/** As far as a net of this depth looks, in pixels, in steps. */
const BEYOND = 6 * WITNESS_STEP;

/** Cuts a picture into windows that begin at steps, so that a net halves each as it would halve the whole. */
export function witnessTiles(picture: PictureShape): WitnessTile[] {
  const whole = pictureRect(picture);
  const tiles: WitnessTile[] = [];
  for (let top = 0; top < picture.height; top += SIDE)
    for (let left = 0; left < picture.width; left += SIDE) {
      const keep = intersectRects({ left, top, width: SIDE, height: SIDE }, whole);
      tiles.push({ keep, read: intersectRects(growRect(keep, BEYOND), whole) });
    }
  return tiles;
}

/** Maps of a picture of which nothing is said yet. */
export function emptyMaps({ width, height }: Pick<PictureShape, 'width' | 'height'>): WitnessMaps {
  const [half, tall] = [Math.ceil(width / 2), Math.ceil(height / 2)];
  const planes = Object.fromEntries(WITNESS_MAPS.map((map) => [map, new Uint8Array(half * tall)]));
  return { width: half, height: tall, planes: planes as Record<WitnessMap, Uint8Array> };
}

/** Writes what a net says of a tile into the maps of its picture. */
export async function lookAtTile(
  { keep, read }: WitnessTile,
  pixels: Pixels,
  witness: Witness,
  maps: WitnessMaps,
): Promise<void> {
  const { planes, width, height } = witnessInput(pixels.window(read).raster);
  const said = await witness(planes, width, height);
  const [half, tall] = [width / 2, height / 2];
  const [offX, offY] = [(keep.left - read.left) / 2, (keep.top - read.top) / 2];
  const [columns, rows] = [Math.ceil(keep.width / 2), Math.ceil(keep.height / 2)];
  WITNESS_MAPS.forEach((map, k) => {
    for (let y = 0; y < rows; y++) {
      const from = k * half * tall + (offY + y) * half + offX;
      const onto = (keep.top / 2 + y) * maps.width + keep.left / 2;
      for (let x = 0; x < columns; x++) maps.planes[map][onto + x] = toByte(said[from + x]);
    }
  });
}

/** What a net says of a whole picture, window after window. */
export async function lookAtPicture(pixels: Pixels, witness: Witness): Promise<WitnessMaps> {
  const maps = emptyMaps(pixels.shape);
  for (const tile of witnessTiles(pixels.shape)) await lookAtTile(tile, pixels, witness, maps);
  return maps;
}
