export { LUMA } from './luma.ts';
export { linearToSrgb, srgbToLinear } from './srgb.ts';
export type { Transfer } from './transfer.ts';
export { SRGB_TRANSFER, lightOf } from './transfer.ts';
