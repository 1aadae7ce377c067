// All inner loops that are compiled. Compiled with AssemblyScript by `npm run kernels` into src/filter/kernelCode.ts; a
// test holds the two together.
export * from './bending';
export * from './contrast';
export * from './courses';
export * from './discs';
export * from './filters';
export * from './forest';
export * from './framing';
export * from './gaps';
export * from './lab';
export * from './layers';
export * from './linking';
export * from './looks';
export * from './luma';
export * from './medians';
export * from './patches';
export * from './ridges';
export * from './rims';
export * from './samples';
export * from './sifting';
export * from './smear';
export * from './surroundings';
export * from './tables';
export * from './texture';
export * from './usual';
export * from './veils';
export * from './ways';
