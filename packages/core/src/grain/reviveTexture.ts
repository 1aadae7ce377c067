import { gaussianBlur } from '../filter/gaussian.ts';
import { gaussian } from '../random/gaussian.ts';
import { mulberry } from '../random/mulberry.ts';
import type { FloatPlane } from '../raster/float.ts';

/** The scale in pixels that parts texture from tone. */
const SIGMA = 2;
/** Texture that is aimed at, as a share of the surroundings': by strengthening, and by adding grain. */
const AIM = { strengthen: 0.82, grain: 0.8 };
/** Detail is strengthened at most so many times: beyond it would be all accident. */
const MOST_GAIN = 2.2;
/** The mean square root of normal values of deviation 1 without their signs. */
const ROOT_OF_NORMAL = 0.822;
/** Detail so many times the usual is no grain. */
const OUTSTANDING = 4;
/** Texture is matched to what lies within about this many pixels. */
const NEIGHBOURHOOD = 8;

/**
 * Gives an invented part the texture of its surroundings. What was predicted is a conditional mean and so too calm:
 * first its own fine detail is strengthened, which costs least in likeness, then what is still missing is added as
 * seeded grain.
 *
 * @param planes whole parts with the invented pixels in them, code values, changed in place
 * @param invented 1 where a pixel was invented
 * @param known 1 where a pixel may be learnt from
 * @param seed the same seed gives the same grain
 */
export function reviveTexture(
  planes: readonly Float32Array[],
  invented: Uint8Array,
  known: Uint8Array,
  width: number,
  seed: number,
): void {
  const height = invented.length / width;
  const asPlane = (data: Float32Array): FloatPlane => ({ width, height, data });
  /** Mean square of a plane's detail under a mask, nearby. */
  const energyOf = (plane: Float32Array, mask: Uint8Array): Float32Array => {
    const detail = highPass(asPlane(plane)).map((value, i) => (mask[i] ? Math.abs(value) : 0));
    const counts = gaussianBlur(asPlane(Float32Array.from(mask)), NEIGHBOURHOOD).data;
    const meanNearby = (data: Float32Array): Float32Array =>
      gaussianBlur(asPlane(data), NEIGHBOURHOOD).data.map((sum, i) =>
        counts[i] > 1e-4 ? sum / counts[i] : 0,
      );
    // Another scratch nearby, or an edge, is not grain: what stands out too far counts as that far.
    const usual = meanNearby(detail.map(Math.sqrt)).map((root) => (root / ROOT_OF_NORMAL) ** 2);
    return meanNearby(detail.map((value, i) => Math.min(value, OUTSTANDING * usual[i]) ** 2));
  };
  const around = planes.map((plane) => energyOf(plane, known));
  planes.forEach((plane, c) => {
    const calm = energyOf(plane, invented);
    const detail = highPass(asPlane(plane));
    for (let i = 0; i < plane.length; i++) {
      if (!invented[i]) continue;
      const wanted = Math.sqrt((around[c][i] * AIM.strengthen ** 2) / (calm[i] + 1e-3));
      plane[i] += (Math.min(MOST_GAIN, Math.max(1, wanted)) - 1) * detail[i];
    }
  });
  const uniform = mulberry(seed);
  const noise = (): Float32Array => highPass(asPlane(Float32Array.from(invented, () => gaussian(uniform))));
  const common = noise();
  const together = Math.sqrt(likenessOfChannels(planes, known, asPlane));
  const apart = Math.sqrt(1 - together * together);
  planes.forEach((plane, c) => {
    const own = noise();
    const strengthened = energyOf(plane, invented);
    for (let i = 0; i < plane.length; i++) {
      if (!invented[i]) continue;
      const missing = Math.sqrt(Math.max(0, around[c][i] * AIM.grain ** 2 - strengthened[i]));
      plane[i] += missing * (together * common[i] + apart * own[i]);
    }
  });
}

/** How the detail of the channels goes together, 0 (each for itself) to 1 (grey): their mean correlation. */
function likenessOfChannels(
  planes: readonly Float32Array[],
  known: Uint8Array,
  asPlane: (data: Float32Array) => FloatPlane,
): number {
  if (planes.length === 1) return 1;
  const details = planes.map((plane) => highPass(asPlane(plane)));
  let [each, mean] = [0, 0];
  for (let i = 0; i < known.length; i++) {
    if (!known[i]) continue;
    let sum = 0;
    for (const detail of details) {
      each += detail[i] * detail[i];
      sum += detail[i];
    }
    mean += sum * sum;
  }
  // The square of a sum of n values of correlation r has n (1 + (n - 1) r) times the square of one.
  const count = planes.length;
  return each > 0 ? Math.min(1, Math.max(0, (mean / each - 1) / (count - 1))) : 1;
}

function highPass(plane: FloatPlane): Float32Array {
  const smooth = gaussianBlur(plane, SIGMA).data;
  return plane.data.map((value, i) => value - smooth[i]);
}
