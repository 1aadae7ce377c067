import type { Shift, Source } from './source.ts';

/** The source of a target that was moved, so that it stays where it was on the picture. */
export const sourceSeenFrom = <S extends Source>(source: S, { dx, dy }: Shift): S => ({
  ...source,
  dx: source.dx - dx,
  dy: source.dy - dy,
});
