import { mulberry } from '../../random/mulberry.ts';
import type { CompletionLevel } from './completionLevel.ts';

/** For every target the source patch that it is filled from. */
export interface PatchField {
  /** Index of the source's centre, -1 where there is none yet; one for every pixel of the level. */
  readonly from: Int32Array;
  /** What the pair costs: mean squared difference of a pixel, in squares of 255. */
  readonly cost: Float32Array;
  /** The pixel each lost pixel was last filled from, -1 where there is none; one for every pixel of the level. */
  readonly taken: Int32Array;
}

/** Places patches may be taken from, and a seeded draw of one. */
export interface SourcePool {
  readonly count: number;
  draw(): number;
  /** So many draws every target begins with. */
  readonly tries: number;
  /** A number from 0 (included) to 1 (left out). */
  chance(): number;
}

export function sourcePool({ isSource }: CompletionLevel, seed: number, tries: number): SourcePool {
  const places: number[] = [];
  for (let i = 0; i < isSource.length; i++) if (isSource[i]) places.push(i);
  const chance = mulberry(seed);
  return { count: places.length, tries, draw: () => places[Math.floor(chance() * places.length)], chance };
}

export const emptyField = ({ width, height }: CompletionLevel): PatchField => ({
  from: new Int32Array(width * height).fill(-1),
  cost: new Float32Array(width * height).fill(Infinity),
  taken: new Int32Array(width * height).fill(-1),
});
