export type { SourceCandidate, SourceQuery } from './findSources.ts';
export { MOST_SOURCES, findSources, searchRect } from './findSources.ts';
export type { EdgeFit } from './fitEdge.ts';
export { fitEdge } from './fitEdge.ts';
export type { Place } from './occupied.ts';
export type { Shift, Source, Warp } from './source.ts';
export type { PointedSource, SourceWay } from './strokeSource.ts';
export { shiftForStroke } from './strokeSource.ts';
export { isConvex, pulledCorners } from './warpPiece.ts';
