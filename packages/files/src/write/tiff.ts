import { embedInTiff } from '../embed/tiff.ts';
import type { Writer } from './writer.ts';

export const tiffWriter: Writer = {
  compress: (pipeline, _pixels, { compression }) =>
    pipeline.tiff({ compression: compression ?? 'deflate', predictor: 'horizontal' }),
  embed: embedInTiff,
};
