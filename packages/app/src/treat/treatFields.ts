import { noiseAt } from '@fennip/core/grain';
import type { SiftMend, Treatment } from '@fennip/core/mend';
import { describeTreatment } from '@fennip/core/mend';
import type { EditedField } from '../describe/editedFields.ts';
import { editedFields, shareField } from '../describe/editedFields.ts';

/** A slider's step of a treatment's share, in per cent. */
const SHARE_STEP = 5;

/** What of a treatment can be set, in the order it is shown. */
export const treatFields = (mend: Treatment): EditedField<Treatment>[] => [
  ...editedFields(mend, describeTreatment(mend).fields),
  shareField(mend, SHARE_STEP),
];

/** The level of 255 that a sift's threshold comes to, in the darkest and in the lightest tones. */
export function thresholdLevels(mend: SiftMend): { dark: number; light: number } {
  const level = (brightness: number): number => mend.threshold * noiseAt(mend.noise, brightness) * 255;
  return { dark: level(0.1), light: level(0.9) };
}
