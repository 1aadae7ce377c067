import { embedInJpeg } from '../embed/jpeg.ts';
import type { Writer } from './writer.ts';

/** From so many pixels on a JPEG is coded as it goes: to fit its codes to it, all of it would be held twice over. */
const MOST_FITTED = 16e6;

export const jpegWriter: Writer = {
  // Full colour resolution from here on: what was mended in red shall not bleed two pixels wide.
  compress: (pipeline, pixels, { quality, chroma }) =>
    pipeline.flatten({ background: '#ffffff' }).jpeg({
      quality,
      chromaSubsampling: chroma ?? (quality >= 90 ? '4:4:4' : '4:2:0'),
      optimiseCoding: pixels <= MOST_FITTED,
    }),
  embed: embedInJpeg,
};
