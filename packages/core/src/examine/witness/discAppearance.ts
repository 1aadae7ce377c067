import type { Polarity } from '../../fault/fault.ts';
import type { FloatPlane } from '../../raster/float.ts';
import type { Raster } from '../../raster/raster.ts';
import { colourChannels, fullScale } from '../../raster/raster.ts';

/** How a disc looks against as large ones around it. */
export interface DiscAppearance {
  /** The mean of the ring around it, encoded luma, 0 to 1. */
  readonly tone: number;
  /** Its step against that, in its own polarity; encoded luma, -1 to 1. */
  readonly step: number;
  /** The step in spreads of the discs around, half a code at least. */
  readonly standsOut: number;
  /** The spread of the discs around: texture and slopes at its own scale. Encoded luma. */
  readonly spread: number;
  /** The least step against a disc beside it, and against the mean of two on opposite sides, as shares of the step. */
  readonly weakestSide: number;
  readonly weakestPair: number;
  /** How far the steps of the channels differ, as a share of the step: 0 for a grey veil. Logarithms of encoded values. */
  readonly colour: number;
}

/** Discs around it that it is held against; an even number. */
const AROUND = 16;
/** It is measured well inside of its soft border, and at least so many pixels across the middle. */
const [INNER, LEAST_INNER] = [0.7, 1];
/** Half a code of 255: what lies around is never calmer to the eye. */
const LEAST_SPREAD = 0.5 / 255;
/** A disc is read at about so many places along its radius at most. */
const PLACES = 4;
/** Keeps logarithms of black apart from those of nothing, in shares of full scale. */
const BLACK = 0.02;

interface Samples {
  readonly data: ArrayLike<number>;
  readonly width: number;
  readonly height: number;
  readonly stride: number;
}

const clamped = (value: number, length: number): number => Math.max(0, Math.min(length - 1, value));

/** The mean over a disc, nearest samples beyond the border. */
function meanOfDisc({ data, width, height, stride }: Samples, cx: number, cy: number, r: number): number {
  const apart = Math.max(1, Math.floor(r / PLACES));
  let [sum, count] = [0, 0];
  for (let y = Math.floor(cy - r); y <= cy + r; y += apart)
    for (let x = Math.floor(cx - r); x <= cx + r; x += apart) {
      const [dx, dy] = [x + 0.5 - cx, y + 0.5 - cy];
      if (dx * dx + dy * dy > r * r) continue;
      sum += data[clamped(y, height) * stride + clamped(x, width)];
      count++;
    }
  return count > 0 ? sum / count : data[Math.floor(cy) * stride + Math.floor(cx)];
}

/**
 * Measures how discs of a picture look.
 *
 * @param luma encoded, 0 to 1, of the whole picture
 * @param raster the same picture; its colours, encoded
 */
export function discAppearances(
  { data, width, height }: FloatPlane,
  raster: Raster,
): (disc: { x: number; y: number; r: number; polarity: Polarity }) => DiscAppearance {
  const lumaSamples: Samples = { data, width, height, stride: width };
  const colours =
    colourChannels(raster.planes.length) < 3
      ? []
      : raster.planes
          .slice(0, 3)
          .map((plane): Samples => ({ data: plane, width, height, stride: raster.stride }));
  const full = fullScale(raster.depth);
  const logOf = (value: number): number => Math.log(value / full + BLACK);
  const means = new Float64Array(AROUND);
  return ({ x, y, r, polarity }) => {
    const inner = Math.max(LEAST_INNER, INNER * r);
    const away = 2 * r + inner;
    const sign = polarity === 'dark' ? 1 : -1;
    const core = meanOfDisc(lumaSamples, x, y, inner);
    const at = (k: number): [number, number] => {
      const angle = (2 * Math.PI * k) / AROUND;
      return [x + away * Math.cos(angle), y + away * Math.sin(angle)];
    };
    let sum = 0;
    for (let k = 0; k < AROUND; k++) {
      means[k] = meanOfDisc(lumaSamples, ...at(k), inner);
      sum += means[k];
    }
    const mean = sum / AROUND;
    let [square, side, pair] = [0, Infinity, Infinity];
    for (let k = 0; k < AROUND; k++) {
      square += (means[k] - mean) ** 2;
      side = Math.min(side, sign * (means[k] - core));
      pair = Math.min(pair, sign * ((means[k] + means[(k + AROUND / 2) % AROUND]) / 2 - core));
    }
    const spread = Math.sqrt(square / AROUND) + LEAST_SPREAD;
    const step = sign * (mean - core);
    const share = Math.max(LEAST_SPREAD, Math.abs(step));
    const steps = colours.map((channel) => {
      let ring = 0;
      for (let k = 0; k < AROUND; k += 4) ring += meanOfDisc(channel, ...at(k), inner) / (AROUND / 4);
      return logOf(ring) - logOf(meanOfDisc(channel, x, y, inner));
    });
    const lumaStep = Math.abs(Math.log(mean + BLACK) - Math.log(core + BLACK)) + BLACK;
    return {
      ...{
        tone: mean,
        step,
        standsOut: step / spread,
        spread,
        weakestSide: side / share,
        weakestPair: pair / share,
      },
      colour: steps.length > 0 ? (Math.max(...steps) - Math.min(...steps)) / lumaStep : 0,
    };
  };
}
