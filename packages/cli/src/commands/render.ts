import { checkRecipe } from '@fennip/contract/check';
import { decodePicture, formatOfName } from '@fennip/files';
import type { Command } from '../options/command.ts';
import { neededOption } from '../options/command.ts';
import { DELIVERY_HELP, DELIVERY_OPTIONS, deliver } from './deliver.ts';
import { readJson } from '../pictures/readJson.ts';
import { renderInThreads } from '../threads/renderInThreads.ts';

export const render: Command = {
  help: `fennip render IN --recipe recipe.json --out OUT

Carries out a recipe on a picture and writes the result in the format of OUT's ending.

${DELIVERY_HELP}`,
  options: { recipe: { type: 'string' }, out: { type: 'string' }, ...DELIVERY_OPTIONS },
  files: 1,
  run: async ([input], values) => {
    const out = neededOption(values, 'out');
    const format = formatOfName(out);
    const recipe = checkRecipe(await readJson(neededOption(values, 'recipe')));
    const { raster, header } = await decodePicture(input);
    await deliver(await renderInThreads(raster, recipe, header), header, format, out, values);
  },
};
