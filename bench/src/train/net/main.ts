import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { layNetCrops } from './layNetCrops.ts';

const FOLDER = fileURLToPath(new URL('../../../../.fennip', import.meta.url));
/** Crops of each photograph in a batch of them. */
const EACH = 4;

const { values } = parseArgs({
  options: { part: { type: 'string', default: 'training' }, batch: { type: 'string', default: '0' } },
});
const { part, batch } = values;
const seed = (part === 'training' ? 1_000_000 : 500_000_000) + 10_000_000 * Number(batch);
await layNetCrops(`${FOLDER}/photographs/${part}`, `${FOLDER}/net/${part}/${batch}`, EACH, seed);
