export type { AssembledPiece, Assembly, Join } from './assembly.ts';
export type { JoinedPicture } from './compose/renderAssembly.ts';
export { renderAssembly } from './compose/renderAssembly.ts';
export { seamFaults } from './compose/seamFaults.ts';
export type { Placement } from './fit/placement.ts';
export { place as placeAt } from './fit/placement.ts';
export type { FoundPiece } from './pieces/findPieces.ts';
export { findPieces } from './pieces/findPieces.ts';
export { joinScans } from './joinScans.ts';
