export { compareReturned, valuesInside } from './compareReturned.ts';
export { mendsUnder } from './mendsUnder.ts';
