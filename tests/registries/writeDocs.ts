/** Writes what of the documents follows from descriptions: `npm run docs`. */
import { readFile, writeFile } from 'node:fs/promises';
import { withFieldTables } from './fieldTables.ts';

const RECIPE = new URL('../../docs/recipe.md', import.meta.url);
await writeFile(RECIPE, await withFieldTables(await readFile(RECIPE, 'utf8')));
