import { colourDescription } from './colour/colourDescription.ts';
import { contrastDescription } from './contrast/contrastDescription.ts';
import { cropDescription } from './crop/cropDescription.ts';
import { curveDescription } from './curve/curveDescription.ts';
import { lensDescription } from './lens/lensDescription.ts';
import { levelsDescription } from './levels/levelsDescription.ts';
import { sharpenDescription } from './sharpen/sharpenDescription.ts';
import { softenDescription } from './soften/softenDescription.ts';
import { straightenDescription } from './straighten/straightenDescription.ts';
import type { FinishDescription, FramingDescription, ValueDescription } from './finishDescription.ts';
import type { FinishName, FinishStep, FramingStep, ValueStep } from './finishStep.ts';

type ValueRegistry = {
  readonly [N in ValueStep['method']]: ValueDescription<Extract<ValueStep, { readonly method: N }>>;
};
type FramingRegistry = {
  readonly [N in FramingStep['method']]: FramingDescription<Extract<FramingStep, { readonly method: N }>>;
};

/** Every step of the finish, in the order in which they are listed; those that frame come last. */
export const FINISH_DESCRIPTIONS: ValueRegistry & FramingRegistry = {
  levels: levelsDescription,
  curve: curveDescription,
  colour: colourDescription,
  contrast: contrastDescription,
  sharpen: sharpenDescription,
  soften: softenDescription,
  lens: lensDescription,
  straighten: straightenDescription,
  crop: cropDescription,
};

export const FINISHES = Object.keys(FINISH_DESCRIPTIONS) as readonly FinishName[];

/** True if a step says how the picture lies in its frame: lens, straightening, crop. */
export const isFramingStep = (step: FinishStep): step is FramingStep =>
  FINISH_DESCRIPTIONS[step.method].frames;

/** The zone that a step is bounded by; none for what frames. */
export const zoneOfStep = (step: FinishStep): string | undefined =>
  isFramingStep(step) ? undefined : step.zone;

/** The description of a step that changes values. */
export const describeValueStep = <S extends ValueStep>({ method }: S): ValueDescription<S> =>
  // The registry's type says that each name leads to the description of its own steps.
  FINISH_DESCRIPTIONS[method] as unknown as ValueDescription<S>;

/** The description of any step. */
export const describeFinish = <S extends FinishStep>({ method }: S): FinishDescription<S> =>
  FINISH_DESCRIPTIONS[method] as unknown as FinishDescription<S>;
