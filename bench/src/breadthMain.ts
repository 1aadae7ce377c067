import { examinePicture } from '@fennip/core/examine';
import { pixelsOf } from '@fennip/core/raster';
import { benchBreadth } from './breadth.ts';

const part = process.argv[2] === 'test' ? 'test' : 'validation';
await benchBreadth(
  part,
  (seen, nature) =>
    Promise.resolve(
      examinePicture(pixelsOf(seen), { polarities: ['dark', 'bright'], sensitivity: 1 }, nature),
    ),
  'Finder without a witness',
);
