import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { fetchPhotographs } from './fetchPhotographs.ts';
import { layOutPhotographs } from './layOut.ts';

const FOLDER = fileURLToPath(new URL('../../../../.fennip/photographs', import.meta.url));

await layOutPhotographs(await fetchPhotographs(FOLDER), FOLDER);
console.log(`laid out in ${join(FOLDER)}`);
