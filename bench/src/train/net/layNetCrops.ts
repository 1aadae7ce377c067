import { once } from 'node:events';
import { createWriteStream } from 'node:fs';
import { mkdir, readdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { mulberry } from '@fennip/core/random';
import type { Raster } from '@fennip/core/raster';
import { cloneRaster, lumaPlane, viewRaster } from '@fennip/core/raster';
import { resizeRaster } from '@fennip/core/resample';
import { decodePicture } from '@fennip/files';
import type { LaidFault, Sheet } from '@fennip/scenes';
import { asSeen } from '../../damage.ts';
import { fromSheet, toSheet } from '../../light.ts';
import { standsOut } from '../../standsOut.ts';
import { laySpreadGrain } from '../grounds.ts';
import { laySubjects } from '../laySubjects.ts';
import { takeColour } from '../takeColour.ts';
import { throughJpeg } from '../throughJpeg.ts';
import { throughSharp } from '../throughSharp.ts';
import { layStructures } from './layStructures.ts';
import { layVariedFaults } from './layVariedFaults.ts';

/** Side of a crop, in pixels. */
export const CROP_SIDE = 512;
/** What a pixel of the truth lies on, as bits of a byte. */
export const ON = { dark: 1, bright: 2, line: 4, unseen: 8 } as const;
/** Specks that stand out less, and lines whose mean step is less of what lies beside them, are seen by nobody. */
const LEAST_STANDING_OUT = 1;
const LEAST_STEP = 0.6;

type Uniform = () => number;

/** A part of a photograph at a size by chance: shrunk, as it is, or enlarged as a large frame is seen closely. */
function drawnCrop(photograph: Raster, uniform: Uniform): Raster {
  const fits = CROP_SIDE / Math.min(photograph.width, photograph.height);
  const wanted = uniform() < 0.3 ? 1 + 1.2 * uniform() : 0.45 + 0.55 * uniform();
  const factor = Math.max(fits, wanted);
  const side = Math.min(photograph.width, photograph.height, Math.round(CROP_SIDE / factor));
  const left = Math.floor(uniform() * (photograph.width - side + 1));
  const top = Math.floor(uniform() * (photograph.height - side + 1));
  const cut = cloneRaster(viewRaster(photograph, { left, top, width: side, height: side }));
  return side === CROP_SIDE ? cut : resizeRaster(cut, CROP_SIDE, CROP_SIDE);
}

/** About how bright each pixel looks, 0 to 1. */
const roughLuma = ({ light }: Sheet): Float32Array =>
  Float32Array.from({ length: light.length / 3 }, (_, i) => {
    const y = 0.2126 * light[3 * i] + 0.7152 * light[3 * i + 1] + 0.0722 * light[3 * i + 2];
    return Math.sqrt(Math.max(0, y));
  });

/** Whether a line is seen: its mean step in brightness against how much the ground varies beside it. */
function isSeen(line: Uint32Array, before: Float32Array, after: Float32Array, side: number): boolean {
  let [step, beside, square] = [0, 0, 0];
  for (const i of line) {
    step += after[i] - before[i];
    // What lies a few pixels away, as a measure of how busy the ground is.
    const other = before[Math.min(before.length - 1, Math.max(0, i + 6 * side + 6))] - before[i];
    beside += other;
    square += other * other;
  }
  const n = Math.max(1, line.length);
  const spread = Math.sqrt(Math.max(0, square / n - (beside / n) ** 2));
  return Math.abs(step / n) > LEAST_STEP * spread + 1.5 / 255;
}

/** A crop with faults, and where they lie. */
export interface NetCrop {
  readonly seen: Raster;
  /** For each pixel what it lies on; see `ON`. */
  readonly truth: Uint8Array;
  readonly specks: readonly (LaidFault & { readonly stands: number })[];
}

function truthOf(
  { width, height }: Raster,
  specks: NetCrop['specks'],
  lines: readonly Uint32Array[],
  seenLines: readonly boolean[],
): Uint8Array {
  const truth = new Uint8Array(width * height);
  for (const { x, y, r, polarity, stands } of specks) {
    const bits = stands < LEAST_STANDING_OUT ? ON.unseen : ON[polarity];
    const reach = Math.max(1, r);
    for (let py = Math.max(0, Math.floor(y - reach)); py < Math.min(height, y + reach); py++)
      for (let px = Math.max(0, Math.floor(x - reach)); px < Math.min(width, x + reach); px++)
        if (Math.hypot(px + 0.5 - x, py + 0.5 - y) <= reach) truth[py * width + px] |= bits;
  }
  lines.forEach((line, k) => {
    for (const i of line) truth[i] |= seenLines[k] ? ON.line : ON.unseen;
  });
  return truth;
}

/** Lays faults, or none, on a part of a photograph, with what a camera, a scanner and a file add to both. */
export async function netCrop(photograph: Raster, seed: number): Promise<NetCrop> {
  const uniform = mulberry(seed);
  let ground = drawnCrop(photograph, uniform);
  if (uniform() < 0.12) ground = laySubjects(ground, 20 + 60 * uniform(), seed + 1);
  if (uniform() < 0.15) ground = await layStructures(ground, uniform);
  const sheet = toSheet(ground);
  const look = uniform();
  if (look < 0.22) takeColour(sheet);
  if (look < 0.1)
    // Sepia: what is grey is brown, and nothing is quite black.
    for (let i = 0; i < sheet.light.length; i += 3) {
      const v = sheet.light[i];
      sheet.light.set([0.02 + 0.9 * v, 0.015 + 0.72 * v, 0.01 + 0.48 * v], i);
    }
  const before = { ...sheet, light: sheet.light.slice() };
  const { specks, lines } = layVariedFaults(sheet, uniform);
  const [lumaBefore, lumaAfter] = [before, sheet].map(roughLuma);
  const seenLines = lines.map((line) => isSeen(line, lumaBefore, lumaAfter, sheet.width));
  let seen = fromSheet(sheet);
  if (uniform() < 0.35) {
    const sigma = 0.4 + 0.9 * uniform();
    seen = await throughSharp(seen, (pixels) => pixels.blur(sigma));
  }
  laySpreadGrain(seen, uniform() < 0.7 ? 7 * uniform() ** 2 : 0, seed + 2);
  if (uniform() < 0.5)
    seen = await throughJpeg(seen, Math.round(55 + 43 * uniform()), uniform() < 0.6 ? '4:2:0' : '4:4:4');
  const luma = lumaPlane(seen);
  const standing = asSeen(specks, before, sheet).map((one) => ({ ...one, stands: standsOut(luma, one) }));
  return { seen, truth: truthOf(seen, standing, lines, seenLines), specks: standing };
}

/**
 * Lays out what a net learns from: `crops.bin` with red, green, blue and truth of each crop, plane after plane, and
 * `crops.json` with its specks.
 *
 * @param photographs folder of PNG files
 * @param each crops of each photograph
 */
export async function layNetCrops(
  photographs: string,
  onto: string,
  each: number,
  seed: number,
): Promise<void> {
  await mkdir(onto, { recursive: true });
  const out = createWriteStream(join(onto, 'crops.bin'));
  const crops: object[] = [];
  const names = (await readdir(photographs)).filter((name) => name.endsWith('.png')).sort();
  for (const [p, name] of names.entries()) {
    const { raster } = await decodePicture(join(photographs, name));
    for (let k = 0; k < each; k++) {
      const { seen, truth, specks } = await netCrop(raster, seed + 1000 * p + k);
      for (const plane of seen.planes) out.write(Buffer.from(Uint8Array.from(plane)));
      if (!out.write(Buffer.from(truth))) await once(out, 'drain');
      crops.push({
        photograph: name,
        specks: specks.map(({ x, y, r, polarity, stands }) => [
          ...[x, y, r].map((value) => Math.round(100 * value) / 100),
          polarity === 'dark' ? 0 : 1,
          Math.round(100 * stands) / 100,
        ]),
      });
    }
  }
  out.end();
  await once(out, 'finish');
  await writeFile(join(onto, 'crops.json'), JSON.stringify({ side: CROP_SIDE, crops }));
  console.log(`${crops.length} crops of ${names.length} photographs in ${onto}`);
}
