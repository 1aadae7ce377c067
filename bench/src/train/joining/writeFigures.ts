import { writeFile } from 'node:fs/promises';
import { WITNESS_FILE } from '@fennip/witness';
import { shippedFigures } from '../../shippedFigures.ts';

/* Writes down what the net and the forests of this tree find, for the check that they still do. */
const figures = await shippedFigures();
await writeFile(
  WITNESS_FILE.replace('witness.onnx', 'figures.json'),
  `${JSON.stringify(figures, null, 2)}\n`,
);
console.log(figures);
