import { medianOf } from '../../measure/medianOf.ts';

/** A sample of the ring: where it is and by how much picture and source differ there. */
export interface RingSamples {
  readonly x: Float32Array;
  readonly y: Float32Array;
  readonly difference: Float32Array;
}

const ROUNDS = 4;
/** Tukey's constant for 95 % efficiency on normal residuals (Huber, Robust Statistics; from memory). */
const TUKEY = 4.685;
const MAD_TO_SIGMA = 1.4826;

/** Weighted least squares of `a + b x + c y`. */
function fitPlane(samples: RingSamples, weight: Float32Array): [a: number, b: number, c: number] {
  const { x, y, difference } = samples;
  let [n, sx, sy, sxx, sxy, syy, sd, sxd, syd] = [0, 0, 0, 0, 0, 0, 0, 0, 0];
  for (let i = 0; i < difference.length; i++) {
    const w = weight[i];
    n += w;
    sx += w * x[i];
    sy += w * y[i];
    sxx += w * x[i] * x[i];
    sxy += w * x[i] * y[i];
    syy += w * y[i] * y[i];
    sd += w * difference[i];
    sxd += w * x[i] * difference[i];
    syd += w * y[i] * difference[i];
  }
  if (n === 0) return [0, 0, 0];
  // About the weighted centre the normal equations fall apart into a mean and a 2 x 2 system.
  const [mx, my, md] = [sx / n, sy / n, sd / n];
  const [cxx, cxy, cyy] = [sxx / n - mx * mx, sxy / n - mx * my, syy / n - my * my];
  const [cxd, cyd] = [sxd / n - mx * md, syd / n - my * md];
  const det = cxx * cyy - cxy * cxy;
  if (det < 1e-6 * (cxx + cyy) ** 2 || det === 0) return [md, 0, 0];
  const b = (cyy * cxd - cxy * cyd) / det;
  const c = (cxx * cyd - cxy * cxd) / det;
  return [md - b * mx - c * my, b, c];
}

/**
 * Weights 0 to 1 for ring samples: those that depart from the plane of the rest belong to another surface (a dark
 * roof, a second speck) and are left out. Iteratively reweighted, Tukey's biweight.
 *
 * @param noise the smallest spread taken as real, in the unit of the differences
 */
export function robustRingWeights(samples: RingSamples, noise: number): Float32Array {
  const count = samples.difference.length;
  const weight = new Float32Array(count).fill(1);
  const residual = new Float32Array(count);
  for (let round = 0; round < ROUNDS; round++) {
    // A plane fitted to all would lean towards a roof on one side: the median, which half of them hold, goes first.
    const [a, b, c] = round === 0 ? [medianOf(samples.difference), 0, 0] : fitPlane(samples, weight);
    for (let i = 0; i < count; i++)
      residual[i] = Math.abs(samples.difference[i] - a - b * samples.x[i] - c * samples.y[i]);
    const reach = TUKEY * Math.max(noise, MAD_TO_SIGMA * medianOf(residual));
    for (let i = 0; i < count; i++) {
      const share = residual[i] / reach;
      weight[i] = share >= 1 ? 0 : (1 - share * share) ** 2;
    }
  }
  return weight;
}
