export { gaussianBlur } from './gaussian.ts';
