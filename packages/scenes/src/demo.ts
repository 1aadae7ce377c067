import type { Polarity } from '@fennip/core/fault';
import { fileURLToPath } from 'node:url';

/** Where the demo's pictures are kept, with the truth about each beside it. */
export const PICTURES_FOLDER = fileURLToPath(new URL('../pictures', import.meta.url));

/** The job that the demo opens with. */
export const DEMO_JOB = 'Brannoch Incline archive';

export interface DemoPicture {
  readonly file: string;
  /** What a restorer would look for first. */
  readonly polarities: readonly Polarity[];
}

/** A shoot along the line with one dusty sensor, to be worked on as a whole. */
export const SERIES_JOB = 'Along the line, 17 May';
export const SERIES_FILES: readonly string[] = [1, 2, 3, 4, 5, 6, 7, 8].map(
  (number) => `viaduct-line-shoot-${number}.jpg`,
);

/** Torn prints, scanned as loose pieces. */
export const TORN_JOB = 'Torn prints from the album';
export const TORN_FILES: readonly string[] = ['valley-torn-in-two.tif', 'viaduct-torn-in-four.tif'];

/** The demo's pictures in the order of the sheet. */
export const DEMO_PICTURES: readonly DemoPicture[] = [
  { file: 'viaduct-line-shoot-3.jpg', polarities: ['dark'] },
  { file: 'opening-day-print.tif', polarities: ['dark', 'bright'] },
  { file: 'wagon-in-the-quarry.jpg', polarities: ['bright'] },
];
