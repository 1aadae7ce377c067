export { lanczos } from './lanczos.ts';
export { resizeRaster } from './resize.ts';
