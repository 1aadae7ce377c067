import { embedInPng } from '../embed/png.ts';
import type { Writer } from './writer.ts';

export const pngWriter: Writer = {
  compress: (pipeline) => pipeline.png({ compressionLevel: 6 }),
  embed: embedInPng,
};
