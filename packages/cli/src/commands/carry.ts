import { mkdir } from 'node:fs/promises';
import { basename, extname, join } from 'node:path';
import type { Carried } from '@fennip/core/carry';
import type { Orientation } from '@fennip/core/chart';
import type { Recipe } from '@fennip/core/recipe';
import { carryRecipe } from '@fennip/core/carry';
import { placeOnSensor, sensorOf } from '@fennip/core/chart';
import { checkRecipe } from '@fennip/contract/check';
import { formatOfName } from '@fennip/files';
import type { Command } from '../options/command.ts';
import { choiceOption, neededOption, numberOption } from '../options/command.ts';
import { DELIVERY_HELP, DELIVERY_OPTIONS, deliver } from './deliver.ts';
import { orientationOf, placementOf, readFrame } from '../pictures/frame.ts';
import { readJson } from '../pictures/readJson.ts';
import { renderInThreads } from '../threads/renderInThreads.ts';
import { RefusedError } from '../errors/usage.ts';
import { writeWhole } from '../pictures/writeWhole.ts';

const ORIENTATIONS = ['1', '2', '3', '4', '5', '6', '7', '8'] as const;

const stemOf = (file: string): string => basename(file, extname(file));

/** What became of each mend, in a form that tells how many were left out and why. */
function reportOf(carried: readonly Carried[]): object {
  return {
    carried: carried.flatMap((one) =>
      'mend' in one ? [{ from: one.from.id, mend: one.mend.id, confidence: one.confidence }] : [],
    ),
    left: carried.flatMap((one) => ('mend' in one ? [] : [{ from: one.from.id, because: one.notCarried }])),
  };
}

export const carry: Command = {
  help: `fennip carry --from recipe.json FRAME... [--orientation 1..8] [--confidence 0..1] --out-dir DIR

Carries the mends and fences of one frame over to others of the same camera: places from sensor coordinates, each fit
and each source made anew on each frame. For every frame DIR gets the mended picture under the frame's own name, its
recipe (NAME.recipe.json), and what was carried and what was left out, with the reason (NAME.carried.json).

  --orientation  how the camera was held for the frame of the recipe, as Exif numbers it (default 1, level)
  --confidence   how sure a mend must be to be carried (default 0.3)
${DELIVERY_HELP}`,
  options: {
    from: { type: 'string' },
    'out-dir': { type: 'string' },
    orientation: { type: 'string' },
    confidence: { type: 'string' },
    ...DELIVERY_OPTIONS,
  },
  files: 'some',
  run: async (files, values) => {
    const folder = neededOption(values, 'out-dir');
    const path = neededOption(values, 'from');
    const least = numberOption(values, 'confidence', 0, 1, 0.3);
    const held = Number(choiceOption(values, 'orientation', ORIENTATIONS, '1')) as Orientation;
    const recipe = checkRecipe(await readJson(path));
    const names = new Set(files.map((file) => basename(file)));
    if (names.size < files.length) throw new RefusedError('Two frames have the same name.');
    await mkdir(folder, { recursive: true });
    for (const file of files) {
      const format = formatOfName(file);
      const frame = await readFrame(file);
      const sensor = sensorOf([
        { shape: recipe.picture, orientation: held },
        { shape: frame.raster, orientation: orientationOf(frame.header) },
      ]);
      const between = {
        picture: basename(path),
        from: placeOnSensor(recipe.picture, held, sensor),
        to: placementOf(frame, sensor),
        idFor: (index: number) => `c${index + 1}`,
      };
      const { recipe: whole, carried } = carryRecipe(recipe, between, frame.pixels);
      const sure = carried.map((one): Carried =>
        'mend' in one && one.confidence < least
          ? { from: one.from, notCarried: 'nothing to be seen there' }
          : one,
      );
      const kept: Recipe = { ...whole, mends: sure.flatMap((one) => ('mend' in one ? [one.mend] : [])) };
      const mended = await renderInThreads(frame.raster, kept, frame.header);
      const stem = join(folder, stemOf(file));
      await writeWhole(`${stem}.recipe.json`, `${JSON.stringify(kept, null, 1)}\n`);
      await writeWhole(`${stem}.carried.json`, `${JSON.stringify(reportOf(sure), null, 1)}\n`);
      await deliver(mended, frame.header, format, join(folder, basename(file)), values);
    }
  },
};
