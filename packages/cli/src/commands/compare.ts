import { colourDifference, comparePictures } from '@fennip/core/measure';
import { decodePicture, readMask } from '@fennip/files';
import type { Command } from '../options/command.ts';
import { textOption } from '../options/command.ts';
import { RefusedError } from '../errors/usage.ts';

export const compare: Command = {
  help: `fennip compare A B [--mask M]

Compares a picture with the one it should be, over everything or over the white of a mask, and prints
  {"psnr","ssim","texture","pixels","colour":{"median","most"}}
psnr in decibels over all colour channels (null where they are equal), ssim after Wang et al. 2004 on luma, texture as
the high-pass strength of A over that of B (null where B has none), colour as CIEDE2000 in the median and below which
95 % of the pixels stay (about 1 is just seen side by side).`,
  options: { mask: { type: 'string' } },
  files: 2,
  run: async ([first, second], values) => {
    const [a, b] = await Promise.all([decodePicture(first), decodePicture(second)]);
    const maskPath = textOption(values, 'mask');
    const mask = maskPath === undefined ? undefined : await readMask(maskPath);
    if (mask && (mask.width !== a.raster.width || mask.height !== a.raster.height))
      throw new RefusedError(
        `The mask is ${mask.width} x ${mask.height}, the picture ${a.raster.width} x ${a.raster.height}.`,
      );
    if (mask && !mask.inside.includes(1)) throw new RefusedError('The mask is empty.');
    const colour = colourDifference(a.raster, b.raster, mask?.inside, b.header.transfer);
    const compared = { ...comparePictures(a.raster, b.raster, mask?.inside), colour };
    process.stdout.write(`${JSON.stringify(compared)}\n`);
  },
};
