import { PATCH, PATCH_AREA } from './completionLevel.ts';
import type { CompletionLevel } from './completionLevel.ts';

/** Compares patches of one level. */
export interface PatchCost {
  /** Takes over how the level is filled now; to be called when its colours have changed. */
  refresh(): void;
  /**
   * What it costs to fill the patch around `target` from that around `source`: the mean over the patch's pixels of
   * the squared difference, plus what the difference in roughness and in the place beside a guide costs.
   * More than `atMost` may come out too small, but never below `atMost`.
   */
  cost(target: number, source: number, atMost: number): number;
  /** By how much the source is raised in a channel so that it meets the target's tone. */
  lift(target: number, source: number, channel: number): number;
}

/** Weight of the difference in roughness. By trial; Newson et al. 2014 take 50 for three channels summed. */
const ROUGH_WEIGHT = 12;
/** A source may be raised or lowered by so much of 255, in every channel for itself. */
const MOST_LIFT = 14;
/** What a lift costs, as a share of what the difference it takes away would have cost. */
const LIFT_SHARE = 0.2;
/** One pixel more or less from a guide costs as much as a difference of so many of 255. */
const GUIDE_WEIGHT = 60;
/** And what it costs at most: to take what lies at no guide for what lies at one. */
const OFF_GUIDE = 60 ** 2;

/** Rows and columns of centres whose patches can be compared. */
interface Span {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

const allCentres = ({ width, height }: CompletionLevel): Span => ({
  ...{ left: PATCH, top: PATCH, right: width - PATCH, bottom: height - PATCH },
});

/** What holds all targets: nothing outside of it ever changes. */
function spanOf({ width, targets }: CompletionLevel): Span {
  const span = { left: Infinity, top: Infinity, right: 0, bottom: 0 };
  for (const at of targets) {
    const y = Math.floor(at / width);
    const x = at - y * width;
    span.left = Math.min(span.left, x);
    span.top = Math.min(span.top, y);
    span.right = Math.max(span.right, x + 1);
    span.bottom = Math.max(span.bottom, y + 1);
  }
  return span;
}

/** Means of whole patches in one channel, by sums along rows and down columns. */
function patchMeans(
  { width, channels, colours }: CompletionLevel,
  channel: number,
  { left, top, right, bottom }: Span,
  out: Float32Array,
): void {
  const rows = new Float32Array(width * (bottom + PATCH));
  for (let y = top - PATCH; y < bottom + PATCH; y++)
    for (let x = left; x < right; x++) {
      let sum = 0;
      const at = y * width + x;
      for (let i = at - PATCH; i <= at + PATCH; i++) sum += colours[i * channels + channel];
      rows[at] = sum;
    }
  for (let y = top; y < bottom; y++)
    for (let x = left; x < right; x++) {
      let sum = 0;
      const at = y * width + x;
      for (let dy = -PATCH; dy <= PATCH; dy++) sum += rows[at + dy * width];
      out[at] = sum / PATCH_AREA;
    }
}

const clamp = (lift: number): number =>
  lift > MOST_LIFT ? MOST_LIFT : lift < -MOST_LIFT ? -MOST_LIFT : lift;

/**
 * Patches are compared in encoded values. A smooth change of tone across the picture is no reason to refuse a source:
 * its mean may be lifted a little (the gain and bias of Darabi et al. 2012, here a bias alone). How rough the two are
 * counts besides, so that stone is not filled from fog (Newson et al. 2014).
 */
export function patchCost(level: CompletionLevel): PatchCost {
  const { width, channels, colours, there, isWhole, roughX, roughY, guides } = level;
  const means = Array.from({ length: channels }, () => new Float32Array(width * level.height));
  // Sources never change: after the first time only the surroundings of the loss are measured anew.
  let span = allCentres(level);
  const run = (2 * PATCH + 1) * channels;
  const firstOf = (centre: number): number => (centre - PATCH * width - PATCH) * channels;

  const liftOf = (target: number, source: number, channel: number): number =>
    isWhole[target] ? clamp(means[channel][target] - means[channel][source]) : 0;

  function besides(target: number, source: number): number {
    const across = roughX[target] - roughX[source];
    const down = roughY[target] - roughY[source];
    let sum = ROUGH_WEIGHT * (across * across + down * down);
    if (guides) {
      const off = GUIDE_WEIGHT * (guides.away[target] - guides.away[source]);
      const isSame = guides.index[target] === guides.index[source];
      if (!isSame) sum += OFF_GUIDE;
      else if (guides.index[target] > 0) sum += Math.min(OFF_GUIDE, off * off);
    }
    return sum;
  }

  /** Whole patches: a plain sum, row after row, given up when it is too much already. */
  function wholeDifference(target: number, source: number, most: number): number {
    let a = firstOf(target);
    let b = firstOf(source);
    let sum = 0;
    for (let dy = -PATCH; dy <= PATCH; dy++) {
      for (let k = 0; k < run; k++) {
        const difference = colours[a + k] - colours[b + k];
        sum += difference * difference;
      }
      if (sum > most) return sum;
      a += width * channels;
      b += width * channels;
    }
    return sum;
  }

  /** Patches of which a part is not there yet, or never will be: the mean over what is. */
  function partDifference(target: number, source: number): number {
    let sum = 0;
    let count = 0;
    for (let dy = -PATCH; dy <= PATCH; dy++)
      for (let dx = -PATCH; dx <= PATCH; dx++) {
        const i = target + dy * width + dx;
        if (!there[i]) continue;
        count++;
        const j = source + dy * width + dx;
        for (let c = 0; c < channels; c++)
          sum += (colours[i * channels + c] - colours[j * channels + c]) ** 2;
      }
    return count > 0 ? sum / (count * channels) : 0;
  }

  function cost(target: number, source: number, atMost: number): number {
    const extra = besides(target, source);
    if (extra >= atMost) return extra;
    if (!isWhole[target]) return extra + partDifference(target, source);
    // What the lift takes away of the sum of squares, less what it costs.
    let saved = 0;
    for (let c = 0; c < channels; c++) {
      const apart = means[c][target] - means[c][source];
      const lift = clamp(apart);
      saved += 2 * lift * apart - lift * lift - LIFT_SHARE * lift * lift;
    }
    saved *= PATCH_AREA;
    const scale = 1 / (PATCH_AREA * channels);
    return extra + scale * (wholeDifference(target, source, (atMost - extra) / scale + saved) - saved);
  }

  return {
    refresh: () => {
      means.forEach((plane, c) => patchMeans(level, c, span, plane));
      span = spanOf(level);
    },
    cost,
    lift: liftOf,
  };
}
