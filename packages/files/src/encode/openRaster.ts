import type { Raster, Rect } from '@fennip/core/raster';
import { resizeRaster } from '@fennip/core/resample';
import { ZipFile } from 'yazl';
import { buffer } from 'node:stream/consumers';
import { escapedXml } from '../embed/escapedXml.ts';
import type { CarriedData } from '../embed/carriedData.ts';
import { encodePicture } from './encodePicture.ts';

/** One layer of a picture in layers. */
export interface OpenLayer {
  readonly name: string;
  readonly rect: Rect;
  /** With an alpha as its last plane, or opaque. */
  readonly raster: Raster;
}

/** A picture in layers, from the lowest to the highest. */
export interface LayeredPicture {
  readonly original: Raster;
  /** What was mended, in groups by name. */
  readonly groups: readonly { readonly name: string; readonly layers: readonly OpenLayer[] }[];
  /** What the finish made of the mended picture; null where there is no finish. */
  readonly finished: Raster | null;
  /** All layers together. */
  readonly merged: Raster;
}

/** The longer side of the small picture, which the specification bounds. */
const THUMBNAIL = 256;

const layerXml = (name: string, src: string, { left, top }: Pick<Rect, 'left' | 'top'>): string =>
  `<layer name="${escapedXml(name)}" src="${src}" x="${left}" y="${top}" opacity="1.0" visibility="visible" composite-op="svg:src-over"/>`;

function thumbnailOf(raster: Raster): Raster {
  const scale = Math.min(1, THUMBNAIL / Math.max(raster.width, raster.height));
  const side = (length: number): number => Math.max(1, Math.round(length * scale));
  return resizeRaster(raster, side(raster.width), side(raster.height));
}

/**
 * A picture in layers as an OpenRaster file (OpenRaster 0.0.5): the original at the bottom, the mends in named groups
 * over it, the finish on top, and all of them merged. Layers are PNG at the picture's own depth, in its own profile.
 */
export async function openRaster(
  { original, groups, finished, merged }: LayeredPicture,
  carried: CarriedData,
): Promise<Buffer> {
  const zip = new ZipFile();
  // The specification asks for the type to come first and not to be compressed.
  zip.addBuffer(Buffer.from('image/openraster'), 'mimetype', { compress: false });
  const add = async (path: string, raster: Raster): Promise<void> => {
    const png = await encodePicture(raster, carried, { format: 'png', quality: 100, depth: raster.depth });
    zip.addBuffer(png, path, { compress: false });
  };
  const origin = { left: 0, top: 0 };
  const stack: string[] = [];
  if (finished) {
    await add('data/finished.png', finished);
    stack.push(layerXml('Finished', 'data/finished.png', origin));
  }
  for (const [g, { name, layers }] of groups.entries()) {
    const inGroup: string[] = [];
    for (const [k, layer] of layers.entries()) {
      const path = `data/mend-${g + 1}-${k + 1}.png`;
      await add(path, layer.raster);
      // The highest comes first.
      inGroup.unshift(layerXml(layer.name, path, layer.rect));
    }
    stack.push(`<stack name="${escapedXml(name)}">${inGroup.join('')}</stack>`);
  }
  await add('data/original.png', original);
  stack.push(layerXml('Original', 'data/original.png', origin));
  await add('mergedimage.png', merged);
  await add('Thumbnails/thumbnail.png', thumbnailOf(merged));
  const { width, height } = original;
  const resolution = carried.density
    ? ` xres="${Math.round(carried.density)}" yres="${Math.round(carried.density)}"`
    : '';
  zip.addBuffer(
    Buffer.from(
      `<?xml version="1.0" encoding="UTF-8"?>\n<image version="0.0.5" w="${width}" h="${height}"${resolution}><stack>${stack.join('')}</stack></image>\n`,
    ),
    'stack.xml',
  );
  zip.end();
  return buffer(zip.outputStream);
}
