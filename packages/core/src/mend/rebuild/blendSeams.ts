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

/**
 * Takes the seams out of a fill that is put together from patches: every pixel steps to its neighbours as it did where
 * it was taken from, and the tone is carried in from the border (Perez, Gangnet, Blake 2003; screened, so that nothing
 * is carried far). Where the sides of a seam miss each other by much, two surfaces meet, and nothing is carried across.
 *
 * @param taken the pixel each was taken from, -1 where there is none; one for every pixel of the level
 * @param pixels lost pixels, filled; they change
 */
export function blendSeams(level: CompletionLevel, taken: Int32Array, pixels: Int32Array): void {
  const { width, channels, colours, lost, there } = level;
  const around = [1, -1, width, -width];
  const aims = new Float32Array(pixels.length * channels);
  const weights = new Float32Array(pixels.length * SIDES);
  const kept = new Float32Array(pixels.length * channels);
  const isKnown = (i: number): boolean => there[i] === 1 && lost[i] === 0;
  const step = new Float32Array(channels);
  for (let n = 0; n < pixels.length; n++) {
    const pixel = pixels[n];
    for (let c = 0; c < channels; c++) kept[n * channels + c] = KEEP * colours[pixel * channels + c];
    for (let side = 0; side < SIDES; side++) {
      const next = pixel + around[side];
      if (!there[next]) continue;
      const own = taken[pixel];
      const other = lost[next] ? taken[next] - around[side] : -1;
      const isOwn = own >= 0 && isKnown(own + around[side]);
      const isOther = other >= 0 && isKnown(other);
      if (!isOwn && !isOther) continue;
      let miss = 0;
      for (let c = 0; c < channels; c++) {
        const at = (i: number): number => colours[i * channels + c];
        const wanted =
          ((isOwn ? at(own) - at(own + around[side]) : 0) +
            (isOther ? at(other) - at(other + around[side]) : 0)) /
          (isOwn && isOther ? 2 : 1);
        step[c] = wanted;
        miss = Math.max(miss, Math.abs(at(pixel) - at(next) - wanted));
      }
      const weight = Math.exp(-((miss / LET_GO) ** 2));
      weights[n * SIDES + side] = weight;
      for (let c = 0; c < channels; c++) aims[n * channels + c] += weight * step[c];
    }
  }
  for (let sweep = 0; sweep < SWEEPS; sweep++)
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
  for (const pixel of pixels)
    for (let c = 0; c < channels; c++) {
      const at = pixel * channels + c;
      colours[at] = Math.min(255, Math.max(0, colours[at]));
    }
}
