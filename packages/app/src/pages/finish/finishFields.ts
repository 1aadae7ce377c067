import type { FinishStep, LevelsStep, Tone } from '@fennip/core/finish';
import { describeFinish, isFramingStep } from '@fennip/core/finish';
import type { EditedNumber } from '../../describe/editedFields.ts';
import { editedFields, shareField } from '../../describe/editedFields.ts';
import { tonesPerChannel } from '../../gestures/pickedTone.ts';
import { QUARTER, quartersOf, withinTurn } from '../../framing/quarters.ts';

type FinishField = EditedNumber<FinishStep>;

const field = (
  name: string,
  [least, most, step]: readonly [number, number, number],
  value: number,
  set: FinishField['set'],
): FinishField => ({ kind: 'number', name, unit: null, least, most, step, value, set });

/** Levels are set in 255ths, as everywhere (common practice); the middle as the exponent's inverse. */
const TOP = 255;
/** White stays so far above black. */
const LEAST_RANGE = 2;
const DEGREE = Math.PI / 180;
const hundredths = (value: number): number => Math.round(100 * value) / 100;

/** Levels by number. @param channel which of the channels is set; null sets them all alike */
function levelsFields(step: LevelsStep, channel: number | null): FinishField[] {
  const tones = channel === null ? step.tones : tonesPerChannel(step, 3);
  const tone = tones[channel ?? 0] ?? tones[0];
  const [black, white] = [Math.round(tone.black * TOP), Math.round(tone.white * TOP)];
  const withTone = (changed: Partial<Tone>): FinishStep => ({
    ...step,
    tones:
      channel === null
        ? [{ ...tone, ...changed }]
        : tones.map((one, c) => (c === channel ? { ...one, ...changed } : one)),
  });
  return [
    field('black', [0, TOP, 1], black, (value) =>
      withTone({ black: Math.min(value, white - LEAST_RANGE) / TOP }),
    ),
    field('white', [0, TOP, 1], white, (value) =>
      withTone({ white: Math.max(value, black + LEAST_RANGE) / TOP }),
    ),
    field('middle', [0.2, 4, 0.01], hundredths(tone.gamma), (gamma) => withTone({ gamma })),
  ];
}

/** Steps whose numbers depend on each other; all others are edited as they are described. */
function ownFields(step: FinishStep, channel: number | null): FinishField[] {
  if (step.method === 'levels') return levelsFields(step, channel);
  if (step.method === 'straighten') {
    const turned = quartersOf(step.angle) * QUARTER;
    const degrees = hundredths((step.angle - turned) / DEGREE);
    return [
      field('angle', [-15, 15, 0.05], degrees, (value) => ({
        ...step,
        angle: withinTurn(turned + value * DEGREE),
      })),
    ];
  }
  return editedFields(step, describeFinish(step).fields).filter((one) => one.kind === 'number');
}

/**
 * What of a step can be set by a number, in the order it is shown.
 *
 * @param channel of levels: the colour channel that is set; null sets all alike
 */
export const finishFields = (step: FinishStep, channel: number | null = null): FinishField[] => [
  ...ownFields(step, channel),
  // What frames does so as a whole.
  ...(isFramingStep(step) ? [] : [shareField<FinishStep>(step, 1)]),
];
