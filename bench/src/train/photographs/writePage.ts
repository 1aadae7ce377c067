import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { PARTS } from './layOut.ts';
import { PHOTOGRAPH_PACKAGES } from './packages.ts';
import photographs from './photographs.json' with { type: 'json' };

const PAGE = fileURLToPath(new URL('../../../../docs/photographs.md', import.meta.url));

const DOES: Readonly<Record<(typeof PARTS)[number], string>> = {
  training: 'The net learns from these.',
  validation: 'What joins the net with the finders learns from these, and they choose among what was tried.',
  test: 'Looked at once, when all is decided.',
};

/** The licences that the `copyright` file of a package names, each once. */
async function licencesIn(folder: string, name: string): Promise<string> {
  const text = await readFile(join(folder, name, 'usr/share/doc', name, 'copyright'), 'utf8');
  return [...new Set([...text.matchAll(/^License: *(.+)$/gm)].map(([, licence]) => licence.trim()))]
    .sort()
    .join(', ');
}

/**
 * Writes the page that names the photographs, where they come from, and what each is used for.
 *
 * @param folder that the packages are unpacked in
 */
export async function writePhotographsPage(folder: string): Promise<void> {
  const licences = await Promise.all(PHOTOGRAPH_PACKAGES.map(({ name }) => licencesIn(folder, name)));
  const lines = [
    '# Photographs that the finders learn from',
    '',
    'They are fetched from Debian 12 by `./fennip train data` and unpacked into `.fennip/photographs`: nothing of them is in this tree, and nothing is installed. Which of the pictures in these packages are photographs stands in `bench/src/train/photographs/photographs.json`, with the part that each belongs to. The parts are by photograph; pictures of one meadow or one field are in one part. What is larger than 1,600 pixels on a side is shrunk, so that fine dust of its own goes.',
    '',
    '| package | licences that its `copyright` file names, for all that it holds |',
    '|---|---|',
    ...PHOTOGRAPH_PACKAGES.map(({ name }, k) => `| \`${name}\` | ${licences[k]} |`),
    '',
    'Benches of finding use two photographs of the stdlib datasets (CC0) beside them: `dust-bowl-home` and `nagasaki-boats`; the forests learned from `french-alpine-landscape`, `black-canyon` and `locomotion-house-cat` (CC0).',
    ...PARTS.flatMap((part) => [
      '',
      `## ${part[0].toUpperCase()}${part.slice(1)}: ${photographs[part].length}`,
      '',
      DOES[part],
      '',
      photographs[part].map((name) => `\`${name}\``).join(', '),
    ]),
    '',
  ];
  await writeFile(PAGE, lines.join('\n'));
}
