export { answerFaults } from './answerFaults.ts';
export { carryFinish } from './carryFinish.ts';
export type { Carried } from './carryMend.ts';
export type { CarriedRecipe } from './carryRecipe.ts';
export { carryFences, carryRecipe } from './carryRecipe.ts';
