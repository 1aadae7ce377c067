import { checkRecipe } from '@fennip/contract/check';
import type { Command } from '../options/command.ts';
import { readJson } from '../pictures/readJson.ts';

export const recipe: Command = {
  help: `fennip recipe FILE

Checks a recipe file. Says what is in it, or explains its first mistake by place.`,
  options: {},
  files: 1,
  run: async ([file]) => {
    const { picture, mends } = checkRecipe(await readJson(file));
    const off = mends.filter((mend) => !mend.on).length;
    process.stdout.write(
      `A recipe for a picture of ${picture.width} x ${picture.height}: ${mends.length} mends${off > 0 ? `, ${off} of them off` : ''}.\n`,
    );
  },
};
