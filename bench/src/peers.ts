import { createRequire } from 'node:module';
import type { Raster } from '@fennip/core/raster';
import { createRaster } from '@fennip/core/raster';
import type CvModule from '@techstark/opencv-js';

type Cv = typeof CvModule;
const require = createRequire(import.meta.url);

/** Loads OpenCV (the peer) once its WebAssembly is ready. In a box: the module itself looks like a promise. */
export function loadOpenCv(): Promise<{ cv: Cv }> {
  const cv = require('@techstark/opencv-js') as Cv & { onRuntimeInitialized?: () => void; Mat?: unknown };
  return new Promise((resolve) => {
    if (cv.Mat) resolve({ cv });
    else cv.onRuntimeInitialized = () => resolve({ cv });
  });
}

function toMat(cv: Cv, raster: Raster): InstanceType<Cv['Mat']> {
  const { width, height, planes } = raster;
  const mat = new cv.Mat(height, width, cv.CV_8UC3);
  for (let i = 0; i < width * height; i++)
    for (let c = 0; c < 3; c++) mat.data[3 * i + c] = planes[Math.min(c, planes.length - 1)][i];
  return mat;
}

function fromMat(mat: InstanceType<Cv['Mat']>): Raster {
  const raster = createRaster(mat.cols, mat.rows, 3, 8);
  for (let i = 0; i < mat.cols * mat.rows; i++)
    for (let c = 0; c < 3; c++) raster.planes[c][i] = mat.data[3 * i + c];
  return raster;
}

export type InpaintPeer = 'telea' | 'navier-stokes';

/** Fills the pixels of a mask with one of OpenCV's two fillers, radius 5. */
export function inpaint(cv: Cv, seen: Raster, inside: Uint8Array, peer: InpaintPeer): Raster {
  const source = toMat(cv, seen);
  const mask = new cv.Mat(seen.height, seen.width, cv.CV_8UC1);
  for (let i = 0; i < inside.length; i++) mask.data[i] = inside[i] ? 255 : 0;
  const filled = new cv.Mat();
  cv.inpaint(source, mask, filled, 5, peer === 'telea' ? cv.INPAINT_TELEA : cv.INPAINT_NS);
  const raster = fromMat(filled);
  for (const mat of [source, mask, filled]) mat.delete();
  return raster;
}
