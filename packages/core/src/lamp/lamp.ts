import type { GrainModel } from '../grain/grainModel.ts';
import type { Tone } from '../finish/tone.ts';
import type { WornArea } from '../check/wear/wornAreas.ts';

/** The ways of looking at a picture that make flaws stand out and never change it. */
export const LAMP_KINDS = [
  'plain',
  'negative',
  'contrast',
  'raking',
  'departure',
  'grain',
  'wear',
  'finish',
  'clipping',
] as const;
export type LampKind = (typeof LAMP_KINDS)[number];

/** A lamp with its settings. */
export type Lamp =
  | { readonly kind: 'plain' }
  | { readonly kind: 'negative' }
  /** Grey, every place held against its surroundings. */
  | { readonly kind: 'contrast'; readonly strength: number }
  /** Tone as a relief, lit from one side. */
  | {
      readonly kind: 'raking';
      /** Where the light comes from, radians from the right, clockwise as the picture is seen. */
      readonly direction: number;
      readonly strength: number;
    }
  /** What differs from its surroundings, as contours. */
  | {
      readonly kind: 'departure';
      /** Radius of what is looked for, in pixels of the picture. */
      readonly scale: number;
      /** The least departure that is drawn, in encoded luma, 0 to 1. */
      readonly least: number;
    }
  /** Where grain is missing: the lighter, the less of it is there. */
  | { readonly kind: 'grain'; readonly grain: Pick<GrainModel, 'kernel' | 'noise'> }
  /** Where mends show one texture again and again: the lighter, the more often. */
  | { readonly kind: 'wear'; readonly worn: readonly WornArea[] }
  /** The picture in the tone it may be finished in. */
  | { readonly kind: 'finish'; readonly tone: Tone }
  /** Where values are cut off at either end, channel by channel. */
  | { readonly kind: 'clipping' };
