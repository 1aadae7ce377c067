export type { Placement, ScanOptions, TornScan } from './scanPieces.ts';
export { ontoPrint, ontoScan, scanPieces } from './scanPieces.ts';
export type { TearOptions, TornPiece, TornPrint } from './tearPrint.ts';
export { coverOf, tearPrint } from './tearPrint.ts';
