import type { Matrix, RgbSpace } from '@fennip/core/colour';
import { SRGB_SPACE } from '@fennip/core/colour';
import { SRGB_TRANSFER } from '@fennip/core/light';
import type { PictureHeader } from './header.ts';
import { tagsOf } from './transferOf.ts';

const fixed = (bytes: Buffer, at: number): number => bytes.readInt32BE(at) / 65536;

/** A colorant of type `XYZ ` (ICC.1:2022, 10.31). */
function colorant(tag: Buffer | undefined): [number, number, number] | null {
  if (!tag || tag.length < 20 || tag.toString('latin1', 0, 4) !== 'XYZ ') return null;
  return [fixed(tag, 8), fixed(tag, 12), fixed(tag, 16)];
}

/** The light of a profile's channels in XYZ; null where it does not say so by three colorants. */
function colorants(icc: Buffer): Matrix | null {
  try {
    const tags = tagsOf(icc);
    // A profile with tables means those; its colorants are for readers that know no tables.
    if (tags.has('A2B0')) return null;
    const [red, green, blue] = ['rXYZ', 'gXYZ', 'bXYZ'].map((name) => colorant(tags.get(name)));
    if (!red || !green || !blue) return null;
    return [
      [red[0], green[0], blue[0]],
      [red[1], green[1], blue[1]],
      [red[2], green[2], blue[2]],
    ];
  } catch (error) {
    if (error instanceof RangeError) return null;
    throw error;
  }
}

/**
 * What a picture's values mean as colour: sRGB without a profile, a profile's own colorants and curves with one. A grey
 * picture is taken as three equal channels.
 *
 * @returns null where the profile says it by tables only
 */
export function rgbSpaceOf({ icc, transfer, channels }: PictureHeader): RgbSpace | null {
  const [first = SRGB_TRANSFER, second = first, third = first] = transfer ?? [];
  if (channels < 3) return { ...SRGB_SPACE, transfer: [first, first, first] };
  if (!icc) return SRGB_SPACE;
  const toXyz = colorants(icc);
  return toXyz && { transfer: [first, second, third], toXyz };
}
