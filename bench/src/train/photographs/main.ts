import { fileURLToPath } from 'node:url';
import { fetchPhotographs } from './fetchPhotographs.ts';
import { layOutPhotographs } from './layOut.ts';
import { writePhotographsPage } from './writePage.ts';

const FOLDER = fileURLToPath(new URL('../../../../.fennip/photographs', import.meta.url));

await layOutPhotographs(await fetchPhotographs(FOLDER), FOLDER);
await writePhotographsPage(FOLDER);
console.log(`laid out in ${FOLDER}`);
