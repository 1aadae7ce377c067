import type { ChartedPlace } from '@fennip/core/chart';
import type { Fault } from '@fennip/core/fault';
import type { FaultToMend, Mend, MethodChoice } from '@fennip/core/mend';
import type { Pixels, Raster } from '@fennip/core/raster';
import type { Recipe } from '@fennip/core/recipe';
import { EXAMINE_DEFAULTS } from '@fennip/core/examine';
import { proposeMend } from '@fennip/core/mend';
import { emptyRecipe } from '@fennip/core/recipe';
import { maskTargets } from '@fennip/core/target';
import { FaultsFileSchema } from '@fennip/contract';
import type { FaultsFile } from '@fennip/contract';
import { checkerOf } from '@fennip/contract/check';
import { formatOfName, readMask } from '@fennip/files';
import { CHART_HELP, CHART_OPTIONS, chartedPlaces } from '../options/chartOption.ts';
import type { Command, OptionValues } from '../options/command.ts';
import { choiceOption, neededOption, textOption } from '../options/command.ts';
import { DELIVERY_HELP, DELIVERY_OPTIONS, deliver } from './deliver.ts';
import type { Frame } from '../pictures/frame.ts';
import { readFrame } from '../pictures/frame.ts';
import { NATURE_HELP, NATURE_OPTIONS, natureOf } from '../options/natureOption.ts';
import { examineInThreads } from '../threads/examineInThreads.ts';
import { mendInThreads } from '../threads/mendInThreads.ts';
import { renderInThreads } from '../threads/renderInThreads.ts';
import { readJson } from '../pictures/readJson.ts';
import { RefusedError, UsageError } from '../errors/usage.ts';
import { writeWhole } from '../pictures/writeWhole.ts';

const METHODS = ['auto', 'recover', 'heal', 'bridge', 'rebuild'] as const;
const checkFaults = checkerOf(FaultsFileSchema);

/** Softness taken for a fault whose file does not tell it. */
const USUAL_SOFTNESS: Fault['softness'] = 0.4;
/** How far a mend reaches beyond the white of a mask, in pixels: masks are drawn to cover the fault. */
const MASK_MARGIN = 1;

/** A listed fault; its mend is named for its place in the list. */
function wantedFrom({ faults }: FaultsFile, { width, height }: Raster): FaultToMend[] {
  return faults.map((fault, index): FaultToMend => {
    if (fault.x < 0 || fault.y < 0 || fault.x > width || fault.y > height)
      throw new RefusedError(`faults/${index}: ${fault.x}, ${fault.y} lies outside the picture.`);
    return {
      id: `m${index + 1}`,
      x: fault.x,
      y: fault.y,
      r: fault.r,
      softness: fault.softness ?? USUAL_SOFTNESS,
      ...(fault.polarity ? { polarity: fault.polarity } : {}),
      ...(fault.kind ? { kind: fault.kind } : {}),
      ...(fault.path ? { path: fault.path } : {}),
      ...(fault.outline ? { outline: fault.outline } : {}),
      ...(fault.isExact ? { isExact: true } : {}),
    };
  });
}

/** A place of a chart is mended from this confidence on. */
const SURE = 0.5;

/** The places of a chart that show in the frame. A listed fault that is one of them is mended once, with what is known. */
function wantedWith(listed: readonly FaultToMend[], charted: readonly ChartedPlace[]): FaultToMend[] {
  const known = charted.flatMap((place): FaultToMend[] => {
    if (!('fault' in place) || place.fault.confidence < SURE) return [];
    const { x, y, r, softness, polarity } = place.fault;
    return [{ id: `d${place.entry.number}`, x, y, r, softness, polarity, known: place.known }];
  });
  const isKnown = ({ x, y, r, path, outline }: FaultToMend): boolean =>
    !path && !outline && known.some((one) => Math.hypot(one.x - x, one.y - y) < Math.max(one.r, r));
  return [...known, ...listed.filter((fault) => !isKnown(fault))];
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

/** Mends for all that is found on a picture of its nature. */
async function mendsFound(values: OptionValues, frame: Frame, choice: MethodChoice): Promise<Mend[]> {
  const { raster, header } = frame;
  const found = await examineInThreads(raster, header.transfer, EXAMINE_DEFAULTS, natureOf(values, frame));
  const wanted = found.map((fault, index): FaultToMend => ({ ...fault, id: `m${index + 1}` }));
  return mendInThreads(wanted, raster, header.transfer, choice);
}

async function mendsFrom(values: OptionValues, frame: Frame, choice: MethodChoice): Promise<Mend[]> {
  const { raster, header, pixels } = frame;
  const [faults, mask] = [textOption(values, 'faults'), textOption(values, 'mask')];
  const charted = await chartedPlaces(values, frame);
  if (mask !== undefined && (faults !== undefined || charted))
    throw new UsageError('takes either --mask or --faults and --chart');
  if (mask !== undefined) return mendsForMask(mask, pixels, choice);
  if (faults === undefined && !charted) return mendsFound(values, frame, choice);
  const list = faults === undefined ? null : checkFaults(await readJson(faults));
  if (list && (list.picture.width !== raster.width || list.picture.height !== raster.height))
    throw new RefusedError(
      `The list is for a picture of ${list.picture.width} x ${list.picture.height}, this one is ${raster.width} x ${raster.height}.`,
    );
  const wanted = wantedWith(list ? wantedFrom(list, raster) : [], charted ?? []);
  return mendInThreads(wanted, raster, header.transfer, choice);
}

export const mend: Command = {
  help: `fennip mend IN [--faults faults.json | --mask mask.png] [--chart chart.json] [--nature frame|print] [--method auto|recover|heal|bridge|rebuild] [--recipe recipe.json] --out OUT

Mends what a list of faults, the white of a mask or a dust chart names (a list and a chart may go together); without any
of them, what is found on the picture. Writes the picture in the format of OUT's ending, with the profile, capture data
and resolution of IN.

  --method       auto lets the program choose (default); recover undoes a shadow or a lit veil and keeps the detail;
                 heal takes texture from a source and tone from around; bridge closes thin lines from both sides;
                 rebuild fills what is gone from the rest of the picture
${CHART_HELP}
${NATURE_HELP}
  --recipe       also writes what was done, as a recipe that fennip render carries out again
${DELIVERY_HELP}`,
  options: {
    faults: { type: 'string' },
    mask: { type: 'string' },
    method: { type: 'string' },
    recipe: { type: 'string' },
    out: { type: 'string' },
    ...CHART_OPTIONS,
    ...NATURE_OPTIONS,
    ...DELIVERY_OPTIONS,
  },
  files: 1,
  run: async ([input], values) => {
    const out = neededOption(values, 'out');
    const choice = choiceOption(values, 'method', METHODS, 'auto');
    const format = formatOfName(out);
    const frame = await readFrame(input);
    const { raster, header } = frame;
    const recipe: Recipe = { ...emptyRecipe(raster), mends: await mendsFrom(values, frame, choice) };
    const mended = await renderInThreads(raster, recipe, header);
    const recipePath = textOption(values, 'recipe');
    if (recipePath !== undefined) await writeWhole(recipePath, `${JSON.stringify(recipe, null, 1)}\n`);
    await deliver(mended, header, format, out, values);
  },
};
