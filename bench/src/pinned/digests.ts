import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { checkRecipe } from '@fennip/contract/check';
import type { Fault } from '@fennip/core/fault';
import type { Raster } from '@fennip/core/raster';
import { frameWhole } from '@fennip/core/finish';
import { cloneRaster } from '@fennip/core/raster';
import { renderRecipe } from '@fennip/core/recipe';

/** SHA-256 of the samples, plane after plane: of the picture as mended, as finished, and as framed. */
export interface RenderingDigests {
  readonly mended: string;
  readonly finished: string;
  readonly framed: string;
}

/** What is pinned: renderings of stored recipes, and what is found on the same pictures. */
export interface Digests {
  readonly recipes: Readonly<Record<string, RenderingDigests>>;
  readonly findings: Readonly<Record<string, string>>;
}

const at = (name: string): string => fileURLToPath(new URL(`../../pinned/${name}`, import.meta.url));

export const recipeFile = (name: string): string => at(`${name}.recipe.json`);
export const DIGESTS_FILE = at('digests.json');

function digestOf({ width, height, stride, planes }: Raster): string {
  const hash = createHash('sha256').update(`${width} x ${height}`);
  for (const plane of planes)
    for (let y = 0; y < height; y++) {
      const row = plane.slice(y * stride, y * stride + width);
      hash.update(new Uint8Array(row.buffer, row.byteOffset, row.byteLength));
    }
  return hash.digest('hex');
}

/** Renders a stored recipe on its picture. @param raster 8 or 16 bit, encoded; it is left as it is */
export async function digestRendering(name: string, raster: Raster): Promise<RenderingDigests> {
  const recipe = checkRecipe(JSON.parse(await readFile(recipeFile(name), 'utf8')));
  const { finish = [] } = recipe;
  const rendered = cloneRaster(raster);
  renderRecipe(rendered, { ...recipe, finish: [] });
  const mended = digestOf(rendered);
  renderRecipe(rendered, { ...recipe, mends: [] });
  return { mended, finished: digestOf(rendered), framed: digestOf(frameWhole(rendered, finish)) };
}

/** SHA-256 of a list of findings, numbers to nine digits. */
export const digestFindings = (faults: readonly Fault[]): string =>
  createHash('sha256')
    .update(
      JSON.stringify(faults, (_, value: unknown) =>
        typeof value === 'number' ? Number(value.toPrecision(9)) : value,
      ),
    )
    .digest('hex');
