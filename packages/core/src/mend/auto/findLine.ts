import type { Pixels } from '../../raster/pixels.ts';
import { isEmpty } from '../../raster/rect.ts';
import type { Place } from '../../source/occupied.ts';
import { occupiedPixels } from '../../source/occupied.ts';
import type { StrokeTarget } from '../../target/target.ts';
import { distanceToStroke } from '../../target/targetDistance.ts';
import { fieldRect } from '../../target/targetField.ts';
import type { MendBase } from '../mendBase.ts';
import { fitLine, lineFitRect } from '../recover/line/fitLine.ts';
import type { LineVeil } from '../recover/line/lineVeil.ts';
import { OUTERMOST, lineField, shoulderOf } from '../recover/line/lineVeil.ts';
import { undoLine } from '../recover/line/recoverLine.ts';
import { recoverability, trustOfLine } from '../recover/trust.ts';

/** A line must explain what is seen at least so much better than none, in log likelihood for each pixel. */
const LEAST_EVIDENCE = 0.25;

/** A line fitted to a stroke, and how much it would bring back. */
export interface LineFinding {
  readonly veil: LineVeil;
  /** In log likelihood for each pixel; below 0 there is no line. */
  readonly evidence: number;
  /** Share of what the line hides that its shoulders let through, 0 to 1. */
  readonly recoverability: number;
  /** The target of its recover: the line itself, with all of its shoulders inside the margin. */
  readonly reach: Pick<MendBase, 'target' | 'margin' | 'edge'>;
}

function reachOf({ points, widths, softness }: LineVeil): LineFinding['reach'] {
  const width = Math.max(...widths);
  return {
    target: { shape: 'stroke', points, width, pressure: widths.map((one) => one / width) },
    margin: Math.max(OUTERMOST, shoulderOf(softness)),
    edge: 0.5,
  };
}

/** Looks for a line under a stroke; null where there is none, or where the stroke lies outside the picture. */
export function findLine(target: StrokeTarget, avoid: readonly Place[], pixels: Pixels): LineFinding | null {
  const rect = lineFitRect(target, pixels);
  if (isEmpty(rect)) return null;
  // A place on the stroke is the stroke's own fault.
  const others = avoid.filter(
    ({ x, y, r }) => distanceToStroke(x, y, target) > Math.max(0.5 * r, 0.5 * target.width),
  );
  const unknown = occupiedPixels(rect, { avoid: others }, pixels.shape.width);
  const fitted = fitLine(target, pixels, unknown);
  if (!fitted || fitted.evidence < LEAST_EVIDENCE) return null;
  const reach = reachOf(fitted.veil);
  const own = fieldRect(reach, pixels.shape, 4);
  if (isEmpty(own)) return null;
  const amount = lineField(fitted.veil, own);
  const here = pixels.window(own);
  const { error } = undoLine(fitted.veil, amount, here);
  return {
    ...fitted,
    reach,
    recoverability: recoverability(amount, trustOfLine(error, amount, here.raster)),
  };
}
