export type { Intent } from './convertColours.ts';
export { INTENTS, convertColours, convertToGrey } from './convertColours.ts';
export type { Matrix, RgbSpace } from './rgbSpace.ts';
export { DISPLAY_P3_SPACE, SRGB_SPACE } from './rgbSpace.ts';
