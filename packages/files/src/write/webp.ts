import { embedInWebp } from '../embed/webp.ts';
import type { Writer } from './writer.ts';

export const webpWriter: Writer = {
  compress: (pipeline, _pixels, { quality }) =>
    quality === 100 ? pipeline.webp({ lossless: true }) : pipeline.webp({ quality }),
  embed: (bytes, carried, { width, height, planes }) =>
    embedInWebp(bytes, carried, width, height, planes.length % 2 === 0),
};
