import type { GrainModel } from '../../grain/grainModel.ts';
import type { MendBase } from '../mendBase.ts';

/** Takes small things out that stand out from the median around them, and gives back the grain. */
export interface SiftMend extends MendBase {
  readonly method: 'sift';
  /** Radius of the square whose median is taken, in pixels, 1 to 100: specks up to about its size are taken. */
  readonly radius: number;
  /** How far a pixel must stand out, in multiples of the noise at its brightness; 0 takes the median everywhere. */
  readonly threshold: number;
  readonly polarity: 'bright' | 'dark' | 'both';
  /** What is at least so long or so wide, in pixels, is left alone; 0 leaves nothing alone. */
  readonly detail: number;
  /** Standard deviation of the noise in 16 even bands of brightness, as shares of full scale, encoded. */
  readonly noise: readonly number[];
}

/** Puts the picture's own grain back where it is missing. */
export interface RegrainMend extends MendBase {
  readonly method: 'regrain';
  /** How much grain there is to be in the end, 0 to 2; 1 is as much as elsewhere in the picture. */
  readonly strength: number;
  readonly grain: GrainModel;
}

/** Lighter, darker, of more or less contrast or colour. */
export interface ToneMend extends MendBase {
  readonly method: 'tone';
  /** Stops in linear light, -4 to 4. */
  readonly exposure: number;
  /** The tones that the exposure acts on. */
  readonly range: 'all' | 'shadows' | 'midtones' | 'highlights';
  /** Local contrast of lightness, -1 (none left) to 2; 0 leaves it. */
  readonly contrast: number;
  /** The size of what local contrast acts on: standard deviation of its surroundings, in pixels. */
  readonly contrastSize: number;
  /** Turn of the hue in degrees. */
  readonly hue: number;
  /** Factor of the chroma, 0 (grey) to 3; 1 leaves it. */
  readonly saturation: number;
  /** Added to L*, -100 to 100. */
  readonly lightness: number;
}

/** Blurs, evenly or along one direction. */
export interface SoftenMend extends MendBase {
  readonly method: 'soften';
  /** Standard deviation of the Gaussian, in pixels. */
  readonly sigma: number;
  /** Direction in radians, clockwise from the right, as the picture is seen; null softens evenly. */
  readonly along: number | null;
}

/** Mean and spread of L*, a* and b*. */
export interface LabStatistics {
  readonly mean: readonly [number, number, number];
  readonly spread: readonly [number, number, number];
}

/** Brings tone and colour to those of a reference. (Reinhard et al. 2001, in L*a*b*.) */
export interface MatchMend extends MendBase {
  readonly method: 'match';
  readonly from: LabStatistics;
  readonly to: LabStatistics;
}

/** The picture against itself, moved: the lighter or the darker of the two. */
export interface ShiftMend extends MendBase {
  readonly method: 'shift';
  /** Whole pixels. */
  readonly dx: number;
  readonly dy: number;
  readonly keeps: 'lighter' | 'darker';
}

/** Lost detail drawn anew: strokes of one colour, with the picture's own grain on them. */
export interface DrawMend extends MendBase {
  readonly method: 'draw';
  /** Encoded, 0 to 1: one value for each colour channel, or one for all. */
  readonly colour: readonly number[];
  /** Over so many pixels of its course a stroke fades in and out at its ends; 0 ends it as it is. */
  readonly fade: number;
  /** How much grain lies on the colour, 0 to 2; 1 is as much as elsewhere in the picture. */
  readonly strength: number;
  readonly grain: GrainModel;
}

/** What came back from another program: values of its own for the pixels that were changed there. */
export interface ReturnMend extends MendBase {
  readonly method: 'return';
  /** Of the values: that of the picture. */
  readonly depth: 8 | 16;
  /** Encoded values inside of the target, a mask: plane after plane, row after row, as bytes in base64, low byte first. */
  readonly values: string;
}

/** A mend of an area rather than of a fault: worked out piece by piece. */
export type Treatment =
  SiftMend | RegrainMend | ToneMend | SoftenMend | MatchMend | ShiftMend | DrawMend | ReturnMend;

export type TreatmentName = Treatment['method'];
/** What the hand takes up; the others come from elsewhere. */
export type HandTreatment = Exclude<TreatmentName, 'return'>;

export const TREATMENTS = [
  'sift',
  'regrain',
  'tone',
  'soften',
  'match',
  'shift',
  'draw',
  'return',
] as const satisfies readonly TreatmentName[];

export const isTreatmentName = (name: string): name is TreatmentName =>
  TREATMENTS.some((one) => one === name);
