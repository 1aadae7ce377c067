import type { Polarity } from '@fennip/core';
import { EXAMINE_DEFAULTS, FAULT_KINDS, decideFindings, withCharted } from '@fennip/core';
import { CHART_HELP, CHART_OPTIONS, chartedPlaces } from '../chartOption.ts';
import { readFrame } from '../frame.ts';
import type { Command } from '../command.ts';
import { choiceOption, neededOption, numberOption, textOption } from '../command.ts';
import { examineInThreads } from '../threads/examineInThreads.ts';
import { UsageError } from '../usage.ts';
import { writeWhole } from '../writeWhole.ts';

/** Kinds that are looked for where none are named, and those that only a print can have. */
const USUAL_KINDS: readonly string[] = ['speck', 'scratch', 'fibre'];
const AREA_KINDS: readonly string[] = ['loss', 'tear', 'stain'];
const FOUND_KINDS = [...USUAL_KINDS, ...AREA_KINDS];

function kindsFrom(text: string): string[] {
  return text.split(',').map((name) => {
    const kind = FAULT_KINDS.find((known) => known === name.trim());
    if (!kind) throw new UsageError(`--kinds: ${name.trim()} is not a kind of fault`);
    if (!FOUND_KINDS.includes(kind))
      throw new UsageError(`--kinds: ${kind} is not looked for; what can be: ${FOUND_KINDS.join(', ')}`);
    return kind;
  });
}

const POLARITIES: Record<'dark' | 'bright' | 'both', readonly Polarity[]> = {
  dark: ['dark'],
  bright: ['bright'],
  both: ['dark', 'bright'],
};

export const examine: Command = {
  help: `fennip examine IN [--chart chart.json] [--sensitivity 0..1] [--kinds speck,scratch,fibre,loss,tear,stain] [--polarity dark|bright|both] --out faults.json

Finds the faults of a picture and lists them, surest first, as
  {"picture":{"width","height","depth"},"faults":[{"kind","polarity","x","y","r","strength","softness","confidence"}]}
in pixels of the upright picture, the centre of the first pixel at 0.5, 0.5. A line has its course as "path"; its r is half its width. An area has its border as "outline"; its r is that of a disc as large. With --out - the list is printed.

  --sensitivity  how readily a finding is listed (default ${EXAMINE_DEFAULTS.sensitivity})
  --kinds        kinds to look for, parted by commas (default ${USUAL_KINDS.join(',')}); loss, tear and
                 stain are looked for on prints
  --polarity     darker than the surroundings, brighter, or both (default both)
${CHART_HELP}`,
  options: {
    sensitivity: { type: 'string' },
    kinds: { type: 'string' },
    polarity: { type: 'string' },
    out: { type: 'string' },
    ...CHART_OPTIONS,
  },
  files: 1,
  run: async ([input], values) => {
    const out = neededOption(values, 'out');
    const kinds = kindsFrom(textOption(values, 'kinds') ?? USUAL_KINDS.join(','));
    const sensitivity = numberOption(values, 'sensitivity', 0, 1, EXAMINE_DEFAULTS.sensitivity);
    const polarities = POLARITIES[choiceOption(values, 'polarity', ['dark', 'bright', 'both'], 'both')];
    const frame = await readFrame(input);
    const { raster, header } = frame;
    const charted = kinds.includes('speck') ? await chartedPlaces(values, frame) : null;
    const nature = kinds.some((kind) => AREA_KINDS.includes(kind)) ? 'print' : 'frame';
    const options = { polarities, sensitivity };
    const all = await examineInThreads(raster, header.transfer, options, nature);
    const found = all.filter(({ kind }) => kinds.includes(kind));
    const faults = charted ? decideFindings(withCharted(found, charted), options) : found;
    const { width, height, depth } = raster;
    const list = `${JSON.stringify({ picture: { width, height, depth }, faults }, null, 1)}\n`;
    if (out === '-') process.stdout.write(list);
    else await writeWhole(out, list);
  },
};
