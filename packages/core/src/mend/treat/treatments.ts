import { drawDescription } from './draw/drawDescription.ts';
import { matchDescription } from './match/matchDescription.ts';
import { regrainDescription } from './regrain/regrainDescription.ts';
import { returnDescription } from './return/returnDescription.ts';
import { shiftDescription } from './shift/shiftDescription.ts';
import { siftDescription } from './sift/siftDescription.ts';
import { softenDescription } from './soften/softenDescription.ts';
import { toneDescription } from './tone/toneDescription.ts';
import type { HandTreatment, Treatment, TreatmentName } from './treatment.ts';
import type { TreatmentDescription } from './treatmentDescription.ts';

type Registry = {
  readonly [N in TreatmentName]: TreatmentDescription<Extract<Treatment, { readonly method: N }>>;
};

/** Every treatment, in the order in which they are listed. */
export const TREATMENT_DESCRIPTIONS: Registry = {
  sift: siftDescription,
  regrain: regrainDescription,
  tone: toneDescription,
  soften: softenDescription,
  match: matchDescription,
  shift: shiftDescription,
  draw: drawDescription,
  return: returnDescription,
};

export const TREATMENTS = Object.keys(TREATMENT_DESCRIPTIONS) as readonly TreatmentName[];

const isPainted = (name: TreatmentName): name is HandTreatment =>
  TREATMENT_DESCRIPTIONS[name].mark !== undefined;

/** The treatments that a person paints; the others come from elsewhere. */
export const HAND_TREATMENTS: readonly HandTreatment[] = TREATMENTS.filter(isPainted);

/** True if a method of this name is a treatment. */
export const isTreatmentName = (name: string): name is TreatmentName =>
  Object.hasOwn(TREATMENT_DESCRIPTIONS, name);

/** The description of a mend's treatment. */
export const describeTreatment = <M extends Treatment>({ method }: M): TreatmentDescription<M> =>
  // The registry's type says that each name leads to the description of its own mends.
  TREATMENT_DESCRIPTIONS[method] as unknown as TreatmentDescription<M>;
