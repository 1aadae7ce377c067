export { logistic } from './logistic.ts';
