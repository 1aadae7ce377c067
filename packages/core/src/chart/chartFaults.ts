import { linearToSrgb } from '../light/srgb.ts';
import type { Fault } from '../fault/fault.ts';
import type { Pixels } from '../raster/pixels.ts';
import { refineVeil } from '../mend/recover/fitVeil.ts';
import type { KnownVeil, Veil } from '../veil/veil.ts';
import { lightPatchOf, greyLight } from '../mend/recover/lightPatch.ts';
import { intersectRects, isEmpty } from '../raster/rect.ts';
import { pictureRect } from '../raster/window.ts';
import type { ChartEntry, DustChart } from './chart.ts';
import { shadowAt, veilOfParticle } from './particle.ts';
import type { Placement } from './sensor.ts';
import { logistic } from '../solve/logistic.ts';

/** Why a charted place is left alone in a frame. */
export type NotShown =
  | 'outside the frame'
  | 'too faint at this f-number'
  | 'lost in the picture’s own texture'
  | 'not to be seen in this frame';

/** A charted place in one frame: a fault with what is known of its shadow, or why there is none to be seen. */
export type ChartedPlace =
  | { readonly entry: ChartEntry; readonly fault: Fault; readonly known: KnownVeil }
  | { readonly entry: ChartEntry; readonly notShown: NotShown };

/** A shadow that takes less of the light than this is not seen on any ground: a code or two of 255. */
const LEAST_DEPTH = 0.012;
/** A shadow is lost where it takes less than this share of how much the light changes by itself over its radius. */
const LEAST_OF_TEXTURE = 0.12;
/** A frame that a shadow would make so much less likely, in log likelihood, hides it in a busy place. */
const LEAST_EVIDENCE = -1.5;
/** How far one frame may raise or lower the odds that the chart gives: it mostly had its say when that was made. */
const MOST_FOR = 0.4;
const MOST_AGAINST = 5;
/** The law of f-numbers is off by about this share of the depth, beside the measured errors. */
const LAW_ERROR = 0.12;
const LEAST_ERROR = 0.006;

/** The error of the depth that a chart expects at an f-number: of its law, and of the frames it comes from. */
function depthErrorOf({ particle, evidence }: ChartEntry, depth: number): number {
  // Frames add up their weights; each depth holds at its own f-number, so its share of the whole counts.
  const weight = evidence.reduce(
    (sum, { error, depth: own }) => sum + (Math.max(0.02, own) / particle.depth / error) ** 2,
    0,
  );
  const measured = weight > 0 ? depth / particle.depth / Math.sqrt(weight) : particle.depth;
  return Math.max(LEAST_ERROR, Math.hypot(measured, LAW_ERROR * depth));
}

/** Mean change of the light over a veil's radius in the square around it, as a share of the light, and its mean. */
function groundOf(pixels: Pixels, { x, y, r }: Veil): { change: number; light: number } {
  const reach = Math.ceil(2.5 * r + 3);
  const rect = intersectRects(
    {
      left: Math.floor(x) - reach,
      top: Math.floor(y) - reach,
      width: 2 * reach + 1,
      height: 2 * reach + 1,
    },
    pictureRect(pixels.shape),
  );
  if (isEmpty(rect)) return { change: 0, light: 0 };
  const {
    planes: [light],
    width,
    height,
  } = greyLight(lightPatchOf(pixels.window(rect)));
  const step = Math.max(1, Math.round(r));
  let [change, count, sum] = [0, 0, 0];
  for (let row = 0; row < height; row++)
    for (let column = 0; column < width; column++) {
      const i = row * width + column;
      sum += light[i];
      if (column >= step) {
        change += Math.abs(light[i] - light[i - step]);
        count++;
      }
      if (row >= step) {
        change += Math.abs(light[i] - light[i - step * width]);
        count++;
      }
    }
  const mean = sum / light.length;
  return { change: count > 0 && mean > 0 ? change / count / mean : 0, light: mean };
}

/**
 * What a chart says of one frame: every entry as a fault of that frame, or why it does not show there.
 *
 * @param pixels the frame's encoded values; depth is measured in linear light
 * @param fNumber null where it is not known
 * @returns places and radii in pixels of the upright frame, strengths as a share of light, 0 to 1
 */
export function chartFaults(
  { entries }: DustChart,
  pixels: Pixels,
  placement: Placement,
  fNumber: number | null,
): ChartedPlace[] {
  return entries.map((entry): ChartedPlace => {
    const { depth, softness } = shadowAt(entry.particle, fNumber);
    const veil = veilOfParticle(entry.particle, fNumber, placement);
    const { width, height } = pixels.shape;
    const reach = veil.r * (1 + softness);
    if (veil.x < -reach || veil.y < -reach || veil.x > width + reach || veil.y > height + reach)
      return { entry, notShown: 'outside the frame' };
    if (depth < LEAST_DEPTH) return { entry, notShown: 'too faint at this f-number' };
    const { change, light } = groundOf(pixels, veil);
    if (depth < LEAST_OF_TEXTURE * change) return { entry, notShown: 'lost in the picture’s own texture' };
    const depthError = depthErrorOf(entry, depth);
    const known: KnownVeil = { veil, depthError };
    const square = Math.ceil(2.3 * veil.r + 4);
    const rect = intersectRects(
      {
        left: Math.floor(veil.x) - square,
        top: Math.floor(veil.y) - square,
        width: 2 * square + 1,
        height: 2 * square + 1,
      },
      pictureRect(pixels.shape),
    );
    const { evidence } = refineVeil(pixels.window(rect), veil, depthError);
    if (evidence < LEAST_EVIDENCE) return { entry, notShown: 'not to be seen in this frame' };
    const logOdds =
      Math.log(entry.confidence / Math.max(1e-6, 1 - entry.confidence)) +
      Math.max(-MOST_AGAINST, Math.min(MOST_FOR, evidence));
    const tone = linearToSrgb(light);
    const fault: Fault = {
      kind: 'speck',
      polarity: 'dark',
      ...{ x: veil.x, y: veil.y, r: veil.r, softness, tone },
      strength: Math.max(0, tone - linearToSrgb(light * (1 - depth))),
      confidence: logistic(logOdds),
    };
    return { entry, fault, known };
  });
}
