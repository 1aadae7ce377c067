import type { PictureNature } from '@fennip/core/examine';
import type { FaultKind, Polarity } from '@fennip/core/fault';
import { withCharted } from '@fennip/core/chart';
import {
  EXAMINE_DEFAULTS,
  LEAST_VISIBILITY,
  canCarry,
  decideFindings,
  findOnDemand,
  kindsOn,
} from '@fennip/core/examine';
import { FAULT_KINDS, describeKind, kindsThat } from '@fennip/core/fault';
import { CHART_HELP, CHART_OPTIONS, chartedPlaces } from '../options/chartOption.ts';
import { readFrame } from '../pictures/frame.ts';
import type { Command } from '../options/command.ts';
import { choiceOption, neededOption, numberOption, textOption } from '../options/command.ts';
import { NATURE_HELP, NATURE_OPTIONS, natureOf } from '../options/natureOption.ts';
import { examineInThreads } from '../threads/examineInThreads.ts';
import { UsageError } from '../errors/usage.ts';
import { writeWhole } from '../pictures/writeWhole.ts';

function kindsFrom(text: string | undefined, nature: PictureNature): readonly FaultKind[] {
  if (text === undefined) return kindsOn(nature).filter((kind) => describeKind(kind).found === 'always');
  const kinds = text.split(',').map((name) => {
    const kind = FAULT_KINDS.find((known) => known === name.trim());
    if (!kind)
      throw new UsageError(
        `--kinds: ${name.trim()} is not a kind of fault; the kinds: ${FAULT_KINDS.join(', ')}`,
      );
    return kind;
  });
  for (const kind of kinds) {
    if (describeKind(kind).found === 'never')
      console.error(`Nothing looks for a ${kind}: it is marked by hand.`);
    else if (!canCarry(nature, kind))
      console.error(`A ${nature} carries no ${kind}. If this is a print, say --nature print.`);
  }
  return kinds;
}

/** An intruder is a wire or the like: a real thing that is no damage. */
const ON_DEMAND = kindsThat(({ found }) => found === 'on demand');

const POLARITIES: Record<'dark' | 'bright' | 'both', readonly Polarity[]> = {
  dark: ['dark'],
  bright: ['bright'],
  both: ['dark', 'bright'],
};

export const examine: Command = {
  help: `fennip examine IN [--chart chart.json] [--sensitivity 0..1] [--least-visibility 0..1] [--nature frame|print] [--kinds speck,fibre,...] [--polarity dark|bright|both] --out faults.json

Finds the faults of a picture and lists them, surest first, as
  {"picture":{"width","height","depth"},"faults":[{"kind","polarity","x","y","r","strength","softness","confidence"}]}
in pixels of the upright picture, the centre of the first pixel at 0.5, 0.5. A line has its course as "path"; its r is half its width. An area has its border as "outline"; its r is that of a disc as large. With --out - the list is printed.

  --sensitivity  how readily a finding is listed (default ${EXAMINE_DEFAULTS.sensitivity}: about one in six is wrong)
  --least-visibility  what is less visible in the whole picture is not listed (default ${LEAST_VISIBILITY}; 1 is a step from
                 black to white half a degree wide, seen from a diagonal away)
${NATURE_HELP}
  --kinds        kinds to list, parted by commas (default: all that the picture can carry by its nature and that are
                 looked for): ${FAULT_KINDS.join(', ')}; looked for only when named: ${ON_DEMAND.join(', ')}
  --polarity     darker than the surroundings, brighter, or both (default both)
${CHART_HELP}`,
  options: {
    sensitivity: { type: 'string' },
    'least-visibility': { type: 'string' },
    kinds: { type: 'string' },
    polarity: { type: 'string' },
    out: { type: 'string' },
    ...CHART_OPTIONS,
    ...NATURE_OPTIONS,
  },
  files: 1,
  run: async ([input], values) => {
    const out = neededOption(values, 'out');
    const sensitivity = numberOption(values, 'sensitivity', 0, 1, EXAMINE_DEFAULTS.sensitivity);
    const polarities = POLARITIES[choiceOption(values, 'polarity', ['dark', 'bright', 'both'], 'both')];
    const frame = await readFrame(input);
    const { raster, header } = frame;
    const nature = natureOf(values, frame);
    const kinds = kindsFrom(textOption(values, 'kinds'), nature);
    const charted = kinds.includes('speck') ? await chartedPlaces(values, frame) : null;
    const leastVisibility = numberOption(values, 'least-visibility', 0, 1, LEAST_VISIBILITY);
    const options = { polarities, sensitivity, leastVisibility };
    const all = await examineInThreads(raster, header.transfer, options, nature);
    const found = [...all, ...findOnDemand(raster, kinds)].filter(({ kind }) => kinds.includes(kind));
    const faults = charted ? decideFindings(withCharted(found, charted), options, raster) : found;
    const { width, height, depth } = raster;
    const list = `${JSON.stringify({ picture: { width, height, depth }, faults }, null, 1)}\n`;
    if (out === '-') process.stdout.write(list);
    else await writeWhole(out, list);
  },
};
