export { colourDifference } from './colourDifference.ts';
export { comparePictures } from './compare.ts';
