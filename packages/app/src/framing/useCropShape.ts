import { ref } from 'vue';
import type { CropShape } from './cropShapes.ts';

/** Kept while one works, for every picture: a series is cropped alike. */
const shape = ref<CropShape>('free');
const isTall = ref(false);

/** The shape that a crop is held to while it is pulled. It is not part of the picture. */
export const useCropShape = () => ({ shape, isTall });
