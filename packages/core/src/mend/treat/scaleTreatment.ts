import { maskOfSpans, spansOfMask } from '../../target/spanRows.ts';
import type { MaskTarget, Target } from '../../target/target.ts';
import type { GrainModel } from '../../grain/grainModel.ts';
import type { PaintStroke } from '../mendBase.ts';
import { scaleReturn } from './return/scaleReturn.ts';
import type { Treatment } from './treatment.ts';

/** A mask is looked at in the middle of each pixel of the smaller level. */
function scaleMask(mask: MaskTarget, times: number): MaskTarget {
  const spans = spansOfMask(mask);
  const top = Math.floor(mask.top / times);
  const end = Math.ceil((mask.top + mask.height) / times);
  const rows = Array.from({ length: end - top }, (_, k) => {
    const row = spans.rows[Math.floor((top + k + 0.5) * times) - spans.top] ?? [];
    const scaled: number[] = [];
    for (let s = 0; s < row.length; s += 2) {
      const [from, to] = [Math.round(row[s] / times), Math.round(row[s + 1] / times)];
      if (to <= from) continue;
      if (scaled.length > 0 && scaled[scaled.length - 1] >= from) scaled[scaled.length - 1] = to;
      else scaled.push(from, to);
    }
    return scaled;
  });
  // What is smaller than a pixel there is still somewhere.
  return (
    maskOfSpans({ top, rows }) ?? {
      ...mask,
      left: Math.floor(mask.left / times),
      top,
      width: 1,
      height: 1,
      runs: [0, 1],
    }
  );
}

/** A target on a level of the pyramid that is so many times smaller. */
export function scaleTarget(target: Target, times: number): Target {
  const points = (all: readonly (readonly [number, number])[]): [number, number][] =>
    all.map(([x, y]) => [x / times, y / times]);
  switch (target.shape) {
    case 'disc':
      return { ...target, x: target.x / times, y: target.y / times, r: target.r / times };
    case 'stroke':
      return { ...target, points: points(target.points), width: target.width / times };
    case 'outline':
      return { ...target, points: points(target.points) };
    case 'mask':
      return scaleMask(target, times);
  }
}

const scaleStroke = (stroke: PaintStroke, times: number): PaintStroke => ({
  ...stroke,
  shape: scaleTarget(stroke.shape, times),
  edge: stroke.edge / times,
});

/** Halving by area takes half of the deviation from white noise; grain that is coarser keeps a little more. */
const calmer = (noise: readonly number[], times: number): number[] => noise.map((sigma) => sigma / times);
const calmerGrain = (grain: GrainModel, times: number): GrainModel => ({
  ...grain,
  noise: calmer(grain.noise, times),
});

/** A treatment as it looks on a smaller level of the pyramid, near enough to be judged by while it is changed. */
export function scaleTreatment(mend: Treatment, times: number): Treatment {
  const base = {
    target: scaleTarget(mend.target, times),
    margin: mend.margin / times,
    edge: mend.edge / times,
    ...(mend.paint ? { paint: mend.paint.map((stroke) => scaleStroke(stroke, times)) } : {}),
  };
  switch (mend.method) {
    case 'sift':
      return {
        ...mend,
        ...base,
        radius: Math.max(1, Math.round(mend.radius / times)),
        detail: mend.detail === 0 ? 0 : Math.max(2, mend.detail / times),
        noise: calmer(mend.noise, times),
      };
    case 'regrain':
      return { ...mend, ...base, grain: calmerGrain(mend.grain, times) };
    case 'tone':
      return { ...mend, ...base, contrastSize: Math.max(0.5, mend.contrastSize / times) };
    case 'soften':
      return { ...mend, ...base, sigma: Math.max(0.2, mend.sigma / times) };
    case 'draw':
      return { ...mend, ...base, fade: mend.fade / times, grain: calmerGrain(mend.grain, times) };
    case 'match':
      return { ...mend, ...base };
    case 'return':
      return base.target.shape === 'mask' ? scaleReturn(mend, base.target, times) : mend;
    case 'shift':
      return { ...mend, ...base, dx: Math.round(mend.dx / times), dy: Math.round(mend.dy / times) };
  }
}
