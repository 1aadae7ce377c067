import { mkdir, writeFile } from 'node:fs/promises';
import { dirname } from 'node:path';
import { WITNESS_FILE } from '@fennip/witness';
import { shippedFigures } from '../../shippedFigures.ts';

/* Writes down what the forests of this tree find, with the net where there is one, for the check that they still do. */
const figures = await shippedFigures();
await mkdir(dirname(WITNESS_FILE), { recursive: true });
await writeFile(
  WITNESS_FILE.replace('witness.onnx', 'figures.json'),
  `${JSON.stringify(figures, null, 2)}\n`,
);
console.log(figures);
