import type { Fault, FaultToMend, Mend, MethodChoice, Pixels, Raster, Recipe, Transfer } from '@fennip/core';
import { emptyRecipe, maskTargets, pixelsOf, proposeMend, renderRecipe } from '@fennip/core';
import { FaultsFileSchema } from '@fennip/contract';
import type { FaultsFile } from '@fennip/contract';
import { checkerOf } from '@fennip/contract/check';
import { decodePicture, formatOfName, readMask } from '@fennip/files';
import type { Command } from '../command.ts';
import { choiceOption, neededOption, textOption } from '../command.ts';
import { DELIVERY_HELP, DELIVERY_OPTIONS, deliver } from '../deliver.ts';
import { mendInThreads } from '../threads/mendInThreads.ts';
import { readJson } from '../readJson.ts';
import { RefusedError, UsageError } from '../usage.ts';
import { writeWhole } from '../writeWhole.ts';

const METHODS = ['auto', 'recover', 'heal', 'bridge'] as const;
const checkFaults = checkerOf(FaultsFileSchema);

/** Softness taken for a fault whose file does not tell it. */
const USUAL_SOFTNESS: Fault['softness'] = 0.4;
/** How far a mend reaches beyond the white of a mask, in pixels: masks are drawn to cover the fault. */
const MASK_MARGIN = 1;

/** A decoded picture and what its values mean in light. */
interface Decoded {
  readonly raster: Raster;
  readonly transfer: readonly Transfer[] | undefined;
}

function mendsFor(
  { faults }: FaultsFile,
  { raster, transfer }: Decoded,
  choice: MethodChoice,
): Promise<Mend[]> {
  const { width, height } = raster;
  const wanted: FaultToMend[] = faults.map((fault, index) => {
    if (fault.x < 0 || fault.y < 0 || fault.x > width || fault.y > height)
      throw new RefusedError(`faults/${index}: ${fault.x}, ${fault.y} lies outside the picture.`);
    return {
      id: `m${index + 1}`,
      x: fault.x,
      y: fault.y,
      r: fault.r,
      softness: fault.softness ?? USUAL_SOFTNESS,
      ...(fault.polarity ? { polarity: fault.polarity } : {}),
      ...(fault.path ? { path: fault.path } : {}),
      ...(fault.outline ? { outline: fault.outline } : {}),
    };
  });
  return mendInThreads(wanted, raster, transfer, choice);
}

async function mendsForMask(path: string, pixels: Pixels, choice: MethodChoice): Promise<Mend[]> {
  const mask = await readMask(path);
  const { width, height } = pixels.shape;
  if (mask.width !== width || mask.height !== height)
    throw new RefusedError(`The mask is ${mask.width} x ${mask.height}, the picture ${width} x ${height}.`);
  return maskTargets(mask.inside, width, height).map(
    (target, index) =>
      proposeMend(
        { id: `m${index + 1}`, target, margin: MASK_MARGIN },
        { avoid: [], used: [], forbidden: mask.inside },
        pixels,
        choice,
      ).mend,
  );
}

async function mendsFrom(
  values: Parameters<Command['run']>[1],
  decoded: Decoded,
  choice: MethodChoice,
): Promise<Mend[]> {
  const [faults, mask] = [textOption(values, 'faults'), textOption(values, 'mask')];
  if ((faults === undefined) === (mask === undefined))
    throw new UsageError('takes either --faults or --mask');
  if (mask !== undefined) return mendsForMask(mask, pixelsOf(decoded.raster, decoded.transfer), choice);
  const list = checkFaults(await readJson(faults ?? ''));
  const { width, height } = decoded.raster;
  if (list.picture.width !== width || list.picture.height !== height)
    throw new RefusedError(
      `The list is for a picture of ${list.picture.width} x ${list.picture.height}, this one is ${width} x ${height}.`,
    );
  return mendsFor(list, decoded, choice);
}

export const mend: Command = {
  help: `fennip mend IN (--faults faults.json | --mask mask.png) [--method auto|recover|heal|bridge] [--recipe recipe.json] --out OUT

Mends what a list of faults or the white of a mask names, and writes the picture in the format of OUT's ending, with
the profile, capture data and resolution of IN.

  --method       auto lets the program choose (default); recover undoes a shadow or a lit veil and keeps the detail;
                 heal takes texture from a source and tone from around; bridge closes thin lines from both sides
  --recipe       also writes what was done, as a recipe that fennip render carries out again
${DELIVERY_HELP}`,
  options: {
    faults: { type: 'string' },
    mask: { type: 'string' },
    method: { type: 'string' },
    recipe: { type: 'string' },
    out: { type: 'string' },
    ...DELIVERY_OPTIONS,
  },
  files: 1,
  run: async ([input], values) => {
    const out = neededOption(values, 'out');
    const choice = choiceOption(values, 'method', METHODS, 'auto');
    const format = formatOfName(out);
    const { raster, header } = await decodePicture(input);
    const decoded = { raster, transfer: header.transfer };
    const recipe: Recipe = { ...emptyRecipe(raster), mends: await mendsFrom(values, decoded, choice) };
    renderRecipe(raster, recipe, header);
    const recipePath = textOption(values, 'recipe');
    if (recipePath !== undefined) await writeWhole(recipePath, `${JSON.stringify(recipe, null, 1)}\n`);
    await deliver(raster, header, format, out, values);
  },
};
