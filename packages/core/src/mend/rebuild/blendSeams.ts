import type { CompletionLevel } from './completionLevel.ts';

/** What holds a pixel at its own colour, against the one that holds it to each of its neighbours; by trial. */
const KEEP = 0.002;
/** Sweeps of successive over-relaxation, and by how much each goes too far. */
const SWEEPS = 120;
const OVER = 1.8;
/** A seam whose sides miss each other by so many of 255 holds but by a third: there two surfaces meet. By trial. */
const LET_GO = 40;

/** Right, left, below, above; every second is the opposite of the one before. */
const SIDES = 4;

/** The equations of the lost pixels, one after the other: what each is held to, and how firmly. */
interface Seams {
  readonly pixels: Int32Array;
  /** From a pixel to its neighbour on each side. */
  readonly around: readonly number[];
  /** The weighted sum of the steps to the neighbours, for each channel. */
  readonly aims: Float32Array;
  /** Of each side; 0 where nothing is carried across. */
  readonly weights: Float32Array;
}

/** What stands in for the gradient between a pixel and a neighbour: the step where the one, or the other, was taken from. */
interface StepSource {
  /** The first pixel of each step, -1 where it is not known. */
  own: number;
  other: number;
}

/** Finds where the step from a lost pixel to its neighbour was taken from. @returns false where nowhere */
function findStep(
  { lost, there }: CompletionLevel,
  taken: Int32Array,
  pixel: number,
  offset: number,
  onto: StepSource,
): boolean {
  const next = pixel + offset;
  const isKnown = (i: number): boolean => there[i] === 1 && lost[i] === 0;
  const own = taken[pixel];
  const other = lost[next] ? taken[next] - offset : -1;
  onto.own = own >= 0 && isKnown(own + offset) ? own : -1;
  onto.other = other >= 0 && isKnown(other) ? other : -1;
  return onto.own >= 0 || onto.other >= 0;
}

/** Writes the step a lost pixel is to make to its neighbour. @returns by how much the two miss it now, of 255 */
function measureStep(
  { channels, colours }: CompletionLevel,
  { own, other }: StepSource,
  pixel: number,
  offset: number,
  step: Float32Array,
): number {
  let miss = 0;
  for (let c = 0; c < channels; c++) {
    const at = (i: number): number => colours[i * channels + c];
    const ownStep = own >= 0 ? at(own) - at(own + offset) : 0;
    const otherStep = other >= 0 ? at(other) - at(other + offset) : 0;
    const wanted = (ownStep + otherStep) / (own >= 0 && other >= 0 ? 2 : 1);
    step[c] = wanted;
    miss = Math.max(miss, Math.abs(at(pixel) - at(pixel + offset) - wanted));
  }
  return miss;
}

function setUpSeams(level: CompletionLevel, taken: Int32Array, pixels: Int32Array): Seams {
  const { width, channels, there } = level;
  const around = [1, -1, width, -width];
  const aims = new Float32Array(pixels.length * channels);
  const weights = new Float32Array(pixels.length * SIDES);
  const step = new Float32Array(channels);
  const from: StepSource = { own: -1, other: -1 };
  for (let n = 0; n < pixels.length; n++)
    for (let side = 0; side < SIDES; side++) {
      const [pixel, offset] = [pixels[n], around[side]];
      if (!there[pixel + offset] || !findStep(level, taken, pixel, offset, from)) continue;
      const miss = measureStep(level, from, pixel, offset, step);
      const weight = Math.exp(-((miss / LET_GO) ** 2));
      weights[n * SIDES + side] = weight;
      for (let c = 0; c < channels; c++) aims[n * channels + c] += weight * step[c];
    }
  return { pixels, around, aims, weights };
}

/** One sweep of successive over-relaxation. */
function relax({ channels, colours }: CompletionLevel, seams: Seams, kept: Float32Array): void {
  const { pixels, around, aims, weights } = seams;
  for (let n = 0; n < pixels.length; n++) {
    let total = KEEP;
    for (let side = 0; side < SIDES; side++) total += weights[n * SIDES + side];
    for (let c = 0; c < channels; c++) {
      const at = pixels[n] * channels + c;
      let sum = aims[n * channels + c] + kept[n * channels + c];
      for (let side = 0; side < SIDES; side++) {
        const weight = weights[n * SIDES + side];
        if (weight > 0) sum += weight * colours[at + around[side] * channels];
      }
      colours[at] += OVER * (sum / total - colours[at]);
    }
  }
}

/**
 * Takes the seams out of a fill that is put together from patches: every pixel steps to its neighbours as it did where
 * it was taken from, and the tone is carried in from the border (Perez, Gangnet, Blake 2003; screened, so that nothing
 * is carried far). Where the sides of a seam miss each other by much, two surfaces meet, and nothing is carried across.
 * Works on encoded values.
 *
 * @param taken the pixel each was taken from, -1 where there is none; one for every pixel of the level
 * @param pixels lost pixels, filled; they change
 */
export function blendSeams(level: CompletionLevel, taken: Int32Array, pixels: Int32Array): void {
  const { channels, colours } = level;
  const kept = new Float32Array(pixels.length * channels);
  for (let n = 0; n < pixels.length; n++)
    for (let c = 0; c < channels; c++) kept[n * channels + c] = KEEP * colours[pixels[n] * channels + c];
  const seams = setUpSeams(level, taken, pixels);
  for (let sweep = 0; sweep < SWEEPS; sweep++) relax(level, seams, kept);
  for (const pixel of pixels)
    for (let c = 0; c < channels; c++) {
      const at = pixel * channels + c;
      colours[at] = Math.min(255, Math.max(0, colours[at]));
    }
}
