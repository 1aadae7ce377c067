export { resizeRaster } from './resize.ts';
