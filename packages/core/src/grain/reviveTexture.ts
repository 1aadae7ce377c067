import { boxMean } from '../filter/boxMean.ts';
import { blurReach, gaussianBlur } from '../filter/gaussian.ts';
import { kernels, layOut, takeFloats } from '../kernels/kernels.ts';
import { gaussian, skipGaussian } from '../random/gaussian.ts';
import { mulberry } from '../random/mulberry.ts';

/** The scale in pixels that parts texture from tone. */
const SIGMA = 2;
/** Texture that is aimed at, as a share of the surroundings': by strengthening, and by adding grain. */
const AIM = { strengthen: 0.85, grain: 0.83 };
/** Detail is strengthened at most so many times: beyond it would be all accident. */
const MOST_GAIN = 2.2;
/** The mean square root of normal values of deviation 1 without their signs. */
const ROOT_OF_NORMAL = 0.822;
/** Detail so many times the usual is no grain; as a multiple of the square of the usual root. */
const OUTSTANDING = 4;
const FARTHEST = OUTSTANDING / ROOT_OF_NORMAL ** 2;
/** Texture is matched to what lies in a square that reaches this many pixels each way. */
const NEIGHBOURHOOD = 14;

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
  const learnt = neighbourhoodOf(known, width);
  const made = neighbourhoodOf(invented, width);
  const details = planes.map((plane) => highPass(plane, width));
  const around = details.map((detail) => energyNearby(detail, learnt));
  planes.forEach((plane, c) => {
    const calm = energyNearby(details[c], made);
    for (let i = 0; i < plane.length; i++) {
      if (!invented[i]) continue;
      const wanted = Math.sqrt((around[c][i] * AIM.strengthen ** 2) / (calm[i] + 1e-3));
      plane[i] += (Math.min(MOST_GAIN, Math.max(1, wanted)) - 1) * details[c][i];
    }
  });
  const uniform = mulberry(seed);
  // Grain is drawn for every pixel, whatever the mask, but worked out only where it can show.
  const seen = meanNearby(made.mask, width, blurReach(SIGMA));
  const noise = (): Float32Array =>
    highPass(
      seen.map((share) => (share > 0 ? gaussian(uniform) : skipGaussian(uniform))),
      width,
    );
  const common = noise();
  const together = Math.sqrt(likenessOfChannels(details, known));
  const apart = Math.sqrt(1 - together * together);
  planes.forEach((plane, c) => {
    const own = noise();
    const strengthened = energyNearby(highPass(plane, width), made);
    for (let i = 0; i < plane.length; i++) {
      if (!invented[i]) continue;
      const missing = Math.sqrt(Math.max(0, around[c][i] * AIM.grain ** 2 - strengthened[i]));
      plane[i] += missing * (together * common[i] + apart * own[i]);
    }
  });
}

/** The pixels of a mask as 0 and 1, and how many of them lie near each pixel, as a share. */
interface Neighbourhood {
  readonly mask: Float32Array;
  readonly width: number;
  readonly shares: Float32Array;
}

const meanNearby = (data: Float32Array, width: number, radius: number): Float32Array =>
  boxMean({ width, height: data.length / width, data }, radius).data;

function neighbourhoodOf(pixels: Uint8Array, width: number): Neighbourhood {
  const mask = Float32Array.from(pixels);
  return { mask, width, shares: meanNearby(mask, width, NEIGHBOURHOOD) };
}

/** Mean square of a plane's detail under a mask, nearby. */
function energyNearby(detail: Float32Array, { mask, width, shares }: Neighbourhood): Float32Array {
  const { byteLength, length } = detail;
  const sums = Float64Array.BYTES_PER_ELEMENT * width;
  const [ofDetail, ofMask, ofShares, onto, work] = layOut([
    ...[detail, mask, shares],
    ...[byteLength, 2 * byteLength + sums + 64],
  ]);
  // Another scratch nearby, or an edge, is not grain: what stands out too far counts as that far.
  kernels().energyNearby(
    ...([ofDetail, ofMask, ofShares, width, length / width, NEIGHBOURHOOD, FARTHEST, work, onto] as const),
  );
  return takeFloats(onto, length);
}

/** How the detail of the channels goes together, 0 (each for itself) to 1 (grey): their mean correlation. */
function likenessOfChannels(details: readonly Float32Array[], known: Uint8Array): number {
  const count = details.length;
  if (count === 1) return 1;
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
  return each > 0 ? Math.min(1, Math.max(0, (mean / each - 1) / (count - 1))) : 1;
}

function highPass(data: Float32Array, width: number): Float32Array {
  const detail = gaussianBlur({ width, height: data.length / width, data }, SIGMA).data;
  for (let i = 0; i < detail.length; i++) detail[i] = data[i] - detail[i];
  return detail;
}
