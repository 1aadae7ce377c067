import type { ChartFrame } from '@fennip/core/chart';
import { chartShoot, placeOnSensor, sensorOf } from '@fennip/core/chart';
import { chartDocument } from '@fennip/contract';
import { captureData, readHeader } from '@fennip/files';
import { basename } from 'node:path';
import type { Command } from '../options/command.ts';
import { neededOption, numberOption, textOption } from '../options/command.ts';
import { orientationOf, readFrame } from '../pictures/frame.ts';
import { NATURE_OPTIONS, natureOf } from '../options/natureOption.ts';
import { RefusedError, UsageError } from '../errors/usage.ts';
import { writeWhole } from '../pictures/writeWhole.ts';

/** Entries less likely than this to be dirt are not listed. */
const LISTED = 0.5;

/** One f-number for each frame, as they are given. */
function fNumbersFrom(text: string | undefined, count: number): (number | null)[] | null {
  if (text === undefined) return null;
  const numbers = text.split(',').map((part) => (part.trim() === '-' ? null : Number(part)));
  if (numbers.some((number) => number !== null && !(number > 0)))
    throw new UsageError(`--f-numbers must be numbers above 0 parted by commas, got ${text}`);
  if (numbers.length !== count) throw new UsageError(`--f-numbers has ${numbers.length} for ${count} frames`);
  return numbers;
}

export const chart: Command = {
  help: `fennip chart FRAME... [--f-numbers 5.6,8,...] [--references NAME,...] [--nature frame|print] [--confidence 0..1] --out chart.json

Finds the dirt on a camera's sensor from its frames: what stays while the scenes change. Two frames give something,
eight give nearly all. Frames may be turned, smaller, or cropped around the middle; where two or more are whole, the
others may be any part of the sensor, at full or half size: they are placed by their own dust. All of them are to be
from between two cleanings of the sensor. The chart is
  {"sensor":{"width","height"},"frames":[{"name","fNumber"}],"faults":[{"kind":"speck","number","x","y","r","softness",
   "depth","confidence","particle","depths":[{"fNumber","depth","error","frames"}],"evidence":[...]}]}
in pixels of the sensor held level, the centre of the first pixel at 0.5, 0.5; r, softness and depth as at f/16.
With --out - the chart is printed.

  --f-numbers    one for each frame, "-" where it is not known (default: what the files say)
  --references   frames among these, by file name, that show nothing but the dust (a defocused sky or wall)
  --nature       frame for a camera's sensor, print for the glass of a scanner, from scans of prints: a scan has no
                 f-number, whatever its file says (default: that of the first file)
  --confidence   how sure an entry must be to be listed (default ${LISTED})`,
  options: {
    'f-numbers': { type: 'string' },
    references: { type: 'string' },
    confidence: { type: 'string' },
    ...NATURE_OPTIONS,
    out: { type: 'string' },
  },
  files: 'some',
  run: async (files, values) => {
    const out = neededOption(values, 'out');
    const least = numberOption(values, 'confidence', 0, 1, LISTED);
    const given = fNumbersFrom(textOption(values, 'f-numbers'), files.length);
    const references = (textOption(values, 'references') ?? '').split(',').filter((name) => name !== '');
    const stranger = references.find((name) => !files.some((file) => basename(file) === basename(name)));
    if (stranger !== undefined) throw new UsageError(`--references: ${stranger} is not among the frames`);
    if (files.length < 2 && references.length === 0)
      throw new UsageError('takes two frames or more: one alone does not tell dirt from the subject');
    const headers = await Promise.all(files.map((file) => readHeader(file)));
    const sensor = sensorOf(headers.map((header) => ({ shape: header, orientation: orientationOf(header) })));
    const isScan = natureOf(values, await readFrame(files[0])) === 'print';
    const frames = headers.map((header, i): ChartFrame => ({
      placement: placeOnSensor(header, orientationOf(header), sensor),
      fNumber: given ? given[i] : isScan ? null : (captureData(header.exif).fNumber ?? null),
      isReference: references.some((name) => basename(name) === basename(files[i])),
    }));
    const found = await chartShoot(sensor, frames, async (index) => {
      const frame = await readFrame(files[index]);
      if (frame.raster.width !== headers[index].width)
        throw new RefusedError(`${files[index]} changed while it was read.`);
      return frame.pixels;
    });
    const document = chartDocument(
      { ...found, entries: found.entries.filter(({ confidence }) => confidence >= least) },
      frames.map(({ fNumber }, i) => ({ name: basename(files[i]), fNumber })),
    );
    const text = `${JSON.stringify(document, null, 1)}\n`;
    if (out === '-') process.stdout.write(text);
    else await writeWhole(out, text);
  },
};
