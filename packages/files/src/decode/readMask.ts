import { said } from '@fennip/words';
import sharp from 'sharp';
import { PictureError } from '../errors/pictureError.ts';
import { sniffFormat } from './sniff.ts';

/** A black and white picture as a set of pixels: white is in. */
export interface PixelSet {
  readonly width: number;
  readonly height: number;
  readonly inside: Uint8Array;
}

/** Reads a mask from a picture file: what is brighter than the middle is in. @throws PictureError */
export async function readMask(path: string): Promise<PixelSet> {
  await sniffFormat(path);
  const { data, info } = await sharp(path, { limitInputPixels: false, ignoreIcc: true })
    .removeAlpha()
    .toColourspace('b-w')
    .raw({ depth: 'uchar' })
    .toBuffer({ resolveWithObject: true })
    .catch((cause: unknown) => {
      throw new PictureError('broken', said('file.brokenMask'), { cause });
    });
  const inside = new Uint8Array(info.width * info.height);
  for (let i = 0; i < inside.length; i++) inside[i] = data[i * info.channels] >= 128 ? 1 : 0;
  return { width: info.width, height: info.height, inside };
}
