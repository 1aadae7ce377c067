import { mkdir, readdir } from 'node:fs/promises';
import { basename, extname, join } from 'node:path';
import sharp from 'sharp';
import photographs from './photographs.json' with { type: 'json' };

/** Which photographs learn, which choose among what was learned, and which are looked at once, at the end. */
export type Part = keyof typeof photographs;

export const PARTS = Object.keys(photographs) as readonly Part[];

/** What is larger is shrunk: fine damage of its own goes, and no photograph outweighs the others. */
const MOST_SIDE = 1600;

/** Rows from the first below which nothing is transparent: skies of panoramas are cut out. */
async function opaqueFrom(path: string): Promise<number> {
  const { data, info } = await sharp(path)
    .ensureAlpha()
    .extractChannel(3)
    .raw()
    .toBuffer({ resolveWithObject: true });
  for (let y = info.height - 1; y >= 0; y--)
    for (let x = 0; x < info.width; x++) if (data[y * info.width + x] < 255) return y + 1;
  return 0;
}

async function writePhotograph(path: string, onto: string): Promise<void> {
  const { width, height } = await sharp(path).metadata();
  const top = await opaqueFrom(path);
  await sharp(path)
    .extract({ left: 0, top, width, height: height - top })
    .removeAlpha()
    .toColourspace('srgb')
    .resize(MOST_SIDE, MOST_SIDE, { fit: 'inside', withoutEnlargement: true })
    .png()
    .toFile(onto);
}

/**
 * Writes the photographs of each part into a folder of its own: `training`, `validation` and `test`.
 *
 * @param found folder of all pictures, photographs or not
 */
export async function layOutPhotographs(found: string, folder: string): Promise<void> {
  const files = new Map((await readdir(found)).map((file) => [basename(file, extname(file)), file]));
  for (const part of PARTS) {
    await mkdir(join(folder, part), { recursive: true });
    for (const name of photographs[part]) {
      const file = files.get(name);
      if (!file) throw new Error(`${name} is not among what was fetched`);
      await writePhotograph(join(found, file), join(folder, part, `${name}.png`));
    }
    console.log(`${part}: ${photographs[part].length} photographs`);
  }
}
