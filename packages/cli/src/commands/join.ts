import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { basename, dirname, join as joinPath } from 'node:path';
import type { Assembly, JoinedPicture } from '@fennip/core/join';
import { joinScans, renderAssembly, seamFaults } from '@fennip/core/join';
import type { AssemblyDocument, JoinedScan } from '@fennip/contract';
import { assemblyDocument } from '@fennip/contract';
import { checkAssembly } from '@fennip/contract/check';
import { formatOfName } from '@fennip/files';
import type { Command } from '../options/command.ts';
import { neededOption, textOption } from '../options/command.ts';
import type { Frame } from '../pictures/frame.ts';
import { readFrame } from '../pictures/frame.ts';
import { readJson } from '../pictures/readJson.ts';
import { writeWhole } from '../pictures/writeWhole.ts';
import { RefusedError, UsageError } from '../errors/usage.ts';
import { DELIVERY_HELP, DELIVERY_OPTIONS, deliver } from './deliver.ts';

interface Scan {
  readonly frame: Frame;
  readonly named: JoinedScan;
}

async function readScan(path: string): Promise<Scan> {
  const frame = await readFrame(path);
  const { width, height } = frame.raster;
  const sha256 = createHash('sha256')
    .update(await readFile(path))
    .digest('hex');
  return { frame, named: { name: basename(path), sha256, width, height } };
}

/** @throws RefusedError when scans cannot lie beside one another as they are */
function checkAlike([first, ...others]: readonly Scan[]): void {
  for (const { frame, named } of others) {
    if (frame.raster.depth !== first.frame.raster.depth)
      throw new RefusedError(
        `${named.name} has ${frame.raster.depth} bit, ${first.named.name} ${first.frame.raster.depth}.`,
      );
    if (frame.raster.planes.length !== first.frame.raster.planes.length)
      throw new RefusedError(`${named.name} and ${first.named.name} are not both grey or both in colour.`);
    const [dense, other] = [first.frame.header.density, frame.header.density];
    if (dense && other && Math.abs(dense - other) > 0.5)
      throw new RefusedError(
        `${named.name} was scanned at ${other} ppi, ${first.named.name} at ${dense}: scan them alike.`,
      );
  }
}

/** The pieces on scans, each where it fits. */
function joined(scans: readonly Scan[]): Assembly {
  checkAlike(scans);
  const assembly = joinScans(scans.map(({ frame }) => frame.raster));
  if (!assembly)
    throw new RefusedError(
      'No piece was found: pieces must lie apart on a plain ground that shows all around them.',
    );
  return assembly;
}

/** The scans of a document, which lie beside it. */
const scansOf = (document: AssemblyDocument, folder: string): Promise<Scan[]> =>
  Promise.all(
    document.scans.map(async ({ name, sha256 }) => {
      const scan = await readScan(joinPath(folder, basename(name)));
      if (scan.named.sha256 !== sha256)
        throw new RefusedError(`${name} is not the scan that the assembly was made from.`);
      return scan;
    }),
  );

function sayWhatFits({ pieces, joins }: Assembly): void {
  const laid = pieces.filter(({ placement }) => placement !== null).length;
  process.stdout.write(`${pieces.length} pieces found, ${laid} of them joined.\n`);
  for (const {
    pieces: [a, b],
    confidence,
    misfit,
  } of joins)
    process.stdout.write(
      `  ${a + 1} beside ${b + 1}: ${Math.round(100 * confidence)} % sure, ${misfit.toFixed(2)} px apart\n`,
    );
  pieces.forEach(({ placement, scan, paper }, k) => {
    if (placement) return;
    const [x, y] = paper[0];
    console.error(
      `Piece ${k + 1} (scan ${scan + 1}, near ${Math.round(x)}, ${Math.round(y)}) fits nowhere and was left out.`,
    );
  });
}

const listOf = (picture: JoinedPicture): string => {
  const { width, height, depth } = picture.raster;
  return `${JSON.stringify({ picture: { width, height, depth }, faults: seamFaults(picture) }, null, 1)}\n`;
};

export const join: Command = {
  help: `fennip join SCAN... [--assembly a.json] [--faults seams.json] --out OUT
fennip join --assembly a.json [--faults seams.json] --out OUT

Finds the pieces of a torn print on one scan or several, lays them beside one another along their tears, squares the
picture by its outer borders and writes it with the profile and resolution of the first scan. Pieces must lie apart on a
plain ground; they may be turned any way. Each pixel is read once from its scan, by Lanczos' kernel of three lobes.

  --assembly     writes what was joined and how; without SCAN it is read instead, and the picture is rendered again to the
                 same pixels from the scans that lie beside it
  --faults       writes the seams: white fibre and gaps as tears, larger places as losses, for fennip mend --faults
${DELIVERY_HELP}

A piece that fits nowhere is named and left out. No piece at all: exit status 1.`,
  options: {
    assembly: { type: 'string' },
    faults: { type: 'string' },
    out: { type: 'string' },
    ...DELIVERY_OPTIONS,
  },
  files: 'any',
  run: async (files, values) => {
    const out = neededOption(values, 'out');
    const format = formatOfName(out);
    const [assemblyPath, faultsPath] = [textOption(values, 'assembly'), textOption(values, 'faults')];
    if (files.length === 0 && assemblyPath === undefined)
      throw new UsageError('takes at least one scan, or --assembly');
    const document =
      files.length === 0 && assemblyPath !== undefined ? checkAssembly(await readJson(assemblyPath)) : null;
    const scans =
      document && assemblyPath !== undefined
        ? await scansOf(document, dirname(assemblyPath))
        : await Promise.all(files.map(readScan));
    const assembly = document ?? joined(scans);
    sayWhatFits(assembly);
    const rasters = scans.map(({ frame }) => frame.raster);
    const picture = renderAssembly(rasters, assembly);
    if (faultsPath !== undefined) await writeWhole(faultsPath, listOf(picture));
    if (!document && assemblyPath !== undefined) {
      const written = assemblyDocument(
        assembly,
        scans.map(({ named }) => named),
      );
      await writeWhole(assemblyPath, `${JSON.stringify(written)}\n`);
    }
    await deliver(picture.raster, scans[0].frame.header, format, out, values);
  },
};
