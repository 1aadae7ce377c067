import type { ColourStep } from './colour/colourStep.ts';
import type { ContrastStep } from './contrast/contrastStep.ts';
import type { CropStep } from './crop/cropStep.ts';
import type { CurveStep } from './curve/curveStep.ts';
import type { LensStep } from './lens/lensStep.ts';
import type { LevelsStep } from './levels/levelsStep.ts';
import type { SharpenStep } from './sharpen/sharpenStep.ts';
import type { SoftenStep } from './soften/softenStep.ts';
import type { StraightenStep } from './straighten/straightenStep.ts';

/** A step that changes values where they are. */
export type ValueStep = LevelsStep | CurveStep | ColourStep | ContrastStep | SharpenStep | SoftenStep;
/** A step that changes where they are seen; of each kind there is at most one, and they come after all others. */
export type FramingStep = LensStep | StraightenStep | CropStep;
/** A step after the mends. */
export type FinishStep = ValueStep | FramingStep;
export type FinishName = FinishStep['method'];
