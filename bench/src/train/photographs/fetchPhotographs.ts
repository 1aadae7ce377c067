import { execFileSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { copyFile, mkdir, readFile, readdir, writeFile } from 'node:fs/promises';
import { basename, dirname, extname, join } from 'node:path';
import sharp from 'sharp';
import { carvePictures } from './carvePictures.ts';
import type { PhotographPackage } from './packages.ts';
import { PHOTOGRAPH_PACKAGES } from './packages.ts';

/** Smaller pictures are icons. */
const FEWEST_PIXELS = 150_000;

/** Fetches a package and unpacks it, once; nothing is installed. */
async function unpacked(name: string, folder: string): Promise<string> {
  const onto = join(folder, name);
  if (existsSync(onto)) return onto;
  const fetched = join(folder, 'packages');
  await mkdir(fetched, { recursive: true });
  execFileSync('apt-get', ['download', '-q', name], { cwd: fetched, stdio: 'ignore' });
  const file = (await readdir(fetched)).find((one) => one.startsWith(`${name}_`));
  if (!file) throw new Error(`${name} was not fetched`);
  execFileSync('dpkg', ['-x', file, onto], { cwd: fetched });
  return onto;
}

/** A name that no other file has: what the package calls it, with its folder where many have the same. */
function nameOf(path: string): string {
  const name = basename(path, extname(path));
  const isSize = /^\d+x\d+$/.test(name);
  return (isSize ? basename(dirname(dirname(dirname(path)))) : `${basename(dirname(path))}-${name}`).replace(
    /[^\w-]+/g,
    '-',
  );
}

async function picturesIn(
  { name, files }: PhotographPackage,
  folder: string,
  found: string,
): Promise<number> {
  const root = await unpacked(name, folder);
  const paths = (await readdir(root, { recursive: true })).filter((path) => files.test(path));
  let count = 0;
  for (const path of paths) {
    const whole = join(root, path);
    if (path.endsWith('.rcc')) {
      const source = basename(path, '.rcc');
      for (const [k, { bytes, extension }] of carvePictures(await readFile(whole)).entries()) {
        const {
          width = 0,
          height = 0,
          hasAlpha,
        } = await sharp(bytes)
          .metadata()
          .catch(() => ({ width: 0, height: 0, hasAlpha: true }));
        if (hasAlpha || width * height < FEWEST_PIXELS) continue;
        await writeFile(join(found, `${source}-${k}.${extension}`), bytes);
        count++;
      }
    } else {
      await copyFile(whole, join(found, `${nameOf(path)}${extname(path)}`));
      count++;
    }
  }
  return count;
}

/**
 * Fetches all packages and lays out their pictures, those that are no photographs among them.
 *
 * @param folder that everything is kept in
 * @returns the folder of the pictures
 */
export async function fetchPhotographs(folder: string): Promise<string> {
  const found = join(folder, 'found');
  await mkdir(found, { recursive: true });
  for (const one of PHOTOGRAPH_PACKAGES)
    console.log(`${one.name}: ${await picturesIn(one, folder, found)} pictures`);
  return found;
}
