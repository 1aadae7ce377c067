export * from './checkAssembly.ts';
export * from './checkFence.ts';
export * from './checkFinish.ts';
export * from './checkMend.ts';
export * from './checkRecipe.ts';
export * from './checker.ts';
