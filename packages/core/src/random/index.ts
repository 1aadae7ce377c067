export { gaussian } from './gaussian.ts';
export { mulberry } from './mulberry.ts';
