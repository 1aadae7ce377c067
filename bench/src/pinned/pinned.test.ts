import { FINISHES } from '@fennip/core/finish';
import { readFile } from 'node:fs/promises';
import type { Depth } from '@fennip/core/raster';
import { examinePicture } from '@fennip/core/examine';
import { TREATMENTS } from '@fennip/core/mend';
import { pixelsOf } from '@fennip/core/raster';
import { checkRecipe } from '@fennip/contract/check';
import { describe, expect, it } from 'vitest';
import type { Digests } from './digests.ts';
import { DIGESTS_FILE, digestFindings, digestRendering, recipeFile } from './digests.ts';
import { SUBJECTS, loadSubject } from './subjects.ts';

const digests = JSON.parse(await readFile(DIGESTS_FILE, 'utf8')) as Digests;
const ALL = SUBJECTS.flatMap((subject) => ([8, 16] satisfies Depth[]).map((depth) => ({ subject, depth })));
/** Half of them in every run, both depths among them; all with PINNED=all, before and after a large change. */
const CASES = process.env.PINNED === 'all' ? ALL : ALL.filter((_, i) => i % 4 === 0 || i % 4 === 3);

describe('recipes that were stored by an earlier version', () => {
  it.each(CASES)('give the same pixels: $subject.name at $depth bits', async ({ subject, depth }) => {
    const name = `${subject.name}-${depth}`;
    expect(await digestRendering(name, await loadSubject(subject, depth))).toEqual(digests.recipes[name]);
  });

  it('hold every method, every treatment and every step of the finish', async () => {
    const names = new Set<string>();
    for (const { subject, depth } of ALL) {
      const file = await readFile(recipeFile(`${subject.name}-${depth}`), 'utf8');
      const { mends, finish = [] } = checkRecipe(JSON.parse(file));
      for (const { method } of [...mends, ...finish]) names.add(method);
    }
    const methods = ['recover', 'heal', 'clone', 'bridge', 'rebuild'];
    expect([...names].sort()).toEqual([...new Set([...methods, ...TREATMENTS, ...FINISHES])].sort());
  });
});

describe('what is found', () => {
  it.each(CASES)('is the same as before: $subject.name at $depth bits', async ({ subject, depth }) => {
    const pixels = pixelsOf(await loadSubject(subject, depth));
    const found = examinePicture(
      pixels,
      { polarities: ['dark', 'bright'], sensitivity: 0.9 },
      subject.nature,
    );
    expect(digestFindings(found)).toBe(digests.findings[`${subject.name}-${depth}`]);
  });
});
