import type { NumberedFault } from '@fennip/core/fault';
import { emptyRecipe } from '@fennip/core/recipe';
import type { Picture, PictureSheet } from '@fennip/contract';

/** A dark speck as it was found, placed by its number. */
export const speckOf = (number: number): NumberedFault => ({
  ...{ id: `f${number}`, number, kind: 'speck', polarity: 'dark' },
  ...{ x: 10 * number, y: 5, r: 2, strength: 0.4, softness: 0.3, confidence: 0.9 },
});

const picture: Picture = {
  ...{ id: 'p', jobId: 'j', place: 1, name: 'harbour.tif', nature: 'frame', state: 'ready', problem: null },
  ...{ format: 'tiff', sizeBytes: 1000, width: 600, height: 500, depth: 8, channels: 3, density: null },
  ...{
    capture: {},
    pyramid: 'x',
    finestLevel: 0,
    examined: 'done',
    examineProblem: null,
    pages: 1,
    pageOf: null,
    lookedFor: null,
    faults: 0,
    settled: 0,
  },
  ...{ camera: null, isReference: false, sensorPart: null, revision: 1, setAside: false, checked: 'none' },
  estimate: null,
};

/** What the server says of a picture, like a fresh one that was examined. */
export const pictureSheet = ({
  id = 'p',
  ...more
}: { readonly id?: string } & Partial<PictureSheet> = {}): PictureSheet => ({
  picture: { ...picture, id },
  ...{ faults: [], judgements: {}, kinds: {}, marked: [], nextFault: 1 },
  ...{ recipe: emptyRecipe(picture), revision: 1, done: [], undone: [] },
  ...more,
});
