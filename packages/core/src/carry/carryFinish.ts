import type { Placement } from '../chart/sensor.ts';
import { isTurned } from '../chart/sensor.ts';
import type { FinishStep } from '../finish/finishStep.ts';
import { describeFinish, isFramingStep } from '../finish/finishSteps.ts';
import { scaleFinish } from '../finish/scaleFinish.ts';

/** Why a step was not carried over. */
export type NotCarriedStep =
  'its zone is not there' | 'each picture is framed by itself' | 'another part of the sensor is shown';

/** What another picture takes over of a finish, and what not. */
export interface CarriedFinish {
  readonly steps: readonly FinishStep[];
  readonly left: readonly { readonly step: FinishStep; readonly reason: NotCarriedStep }[];
}

/** Two corners of a sensor count as the same within this share of its width. */
const SAME_PART = 0.005;

/** True if two pictures show the same part of their sensor, whatever their size and however the camera was held. */
function showSamePart(a: Placement, b: Placement): boolean {
  const partOf = ({ left, top, width, height, scale, orientation }: Placement): readonly number[] => {
    const [across, down] = isTurned(orientation) ? [height, width] : [width, height];
    return [left, top, left + across / scale, top + down / scale];
  };
  const [first, second] = [partOf(a), partOf(b)];
  return first.every((edge, k) => Math.abs(edge - second[k]) <= SAME_PART * (first[2] - first[0]));
}

/**
 * A finish as another picture of the same sensor takes it over: tone, colour and sharpness, their radii in its own
 * pixels; the lens where both show the same part of the sensor. How a picture is straightened and cropped is its own.
 *
 * @param from where the first picture lies on the sensor; `to` the other
 * @param zones ids of the zones that the other picture has; a step bounded by another one is left out
 */
export function carryFinish(
  finish: readonly FinishStep[],
  {
    from,
    to,
    zones,
  }: {
    readonly from: Placement;
    readonly to: Placement;
    readonly zones: ReadonlySet<string>;
  },
): CarriedFinish {
  const steps: FinishStep[] = [];
  const left: { step: FinishStep; reason: NotCarriedStep }[] = [];
  for (const step of finish) {
    if (!isFramingStep(step)) {
      if (step.zone === undefined || zones.has(step.zone))
        steps.push(scaleFinish(step, from.scale / to.scale));
      else left.push({ step, reason: 'its zone is not there' });
    } else if (describeFinish(step).carried === 'never')
      left.push({ step, reason: 'each picture is framed by itself' });
    else if (showSamePart(from, to)) steps.push(step);
    else left.push({ step, reason: 'another part of the sensor is shown' });
  }
  return { steps, left };
}
