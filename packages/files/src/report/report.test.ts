import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { FaultKind, NumberedFault } from '@fennip/core/fault';
import type { HealMend } from '@fennip/core/mend';
import type { Recipe, Worksheet } from '@fennip/core/recipe';
import { frameWhole } from '@fennip/core/finish';
import { ledgerEntries } from '@fennip/core/ledger';
import { cloneRaster, createRaster } from '@fennip/core/raster';
import { emptyRecipe, emptyWorksheet, renderRecipe } from '@fennip/core/recipe';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { PictureHeader } from '../index.ts';
import { buildReport } from './buildReport.ts';
import type { ConditionReport } from './report.ts';
import { reportHtml } from './reportHtml.ts';
import { reportPdf } from './reportPdf.ts';

const SIDES = { width: 600, height: 900 };
const fault = (number: number, kind: FaultKind): NumberedFault => ({
  ...{ id: `f${number}`, number, kind, polarity: 'dark', x: 60 * number, y: 90 * number, r: 8 },
  ...{ strength: 0.2, softness: 0.4, confidence: 0.9 },
});
const FAULTS = [
  fault(1, 'speck'),
  fault(2, 'speck'),
  fault(3, 'scratch'),
  fault(4, 'intruder'),
  fault(5, 'stain'),
  fault(6, 'speck'),
];
const heal = (number: number, share = 1): HealMend => ({
  ...{ id: `m${number}`, method: 'heal', fault: `f${number}`, margin: 2, edge: 1.5, share, on: true },
  ...{ target: { shape: 'disc', x: 60 * number, y: 90 * number, r: 8 }, source: { dx: 40, dy: 0 } },
});
const RECIPE: Recipe = {
  ...emptyRecipe(SIDES),
  mends: [heal(1), heal(3, 0.4), heal(4)],
  finish: [{ id: 'c', on: true, share: 1, method: 'crop', left: 10, top: 10, width: 500, height: 800 }],
};
const SHEET: Worksheet = {
  ...emptyWorksheet(SIDES),
  recipe: RECIPE,
  judgements: { f5: 'set aside', f6: 'dismissed' },
};
const HEADER: PictureHeader = {
  ...{ format: 'tiff', ...SIDES, depth: 8, channels: 3, isCmyk: false, pages: 1, density: 150 },
};

let folder = '';
let report: ConditionReport;
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'fennip-report-'));
  const raster = createRaster(SIDES.width, SIDES.height, 3, 8);
  for (const plane of raster.planes) plane.forEach((_, i) => (plane[i] = 90 + (i % 50)));
  const mended = cloneRaster(raster);
  const { finish = [], ...mends } = RECIPE;
  renderRecipe(mended, mends);
  const shown = { original: raster, mended, finished: frameWhole(mended, finish) };
  report = await buildReport(shown, HEADER, finish, ledgerEntries(FAULTS, SHEET), {
    ...{ job: 'Brannoch Incline archive', picture: 'opening day.tif', date: '2026-11-26T09:00:00Z' },
    ...{ nature: 'print', density: null, language: 'en' },
  });
});
afterAll(() => rmSync(folder, { recursive: true }));

/** What every report says, whatever it is laid out in. */
const SAID = [
  'Brannoch Incline archive',
  'opening day.tif',
  '26 November 2026',
  '4.0 × 6.0 in',
  'Damage mended: 1 fault.',
  'Only lessened: 1 fault.',
  'Real things taken away that were no damage: 1.',
  'Left as they were: 2 faults.',
  'Not decided about: 1 speck.',
  'Set aside by the restorer: 1 stain.',
  'Looked at and found to be no fault: 1 speck.',
  'After the mends: a crop.',
  '3 healed',
];

describe('a condition report', () => {
  it('tells mended, lessened, taken away and left apart', () => {
    const { mended, lessened, takenAway, left } = report.account;
    expect({ mended, lessened, takenAway, left }).toEqual({ mended: 1, lessened: 1, takenAway: 1, left: 2 });
    expect(report.places.map(({ number }) => number).sort()).toEqual([1, 3, 4]);
    expect([report.after.width, report.after.height]).toEqual([500, 800]);
  });

  it('is one HTML file that fetches nothing, with its figures and pictures in it', () => {
    const html = reportHtml(report);
    for (const words of SAID) expect(html).toContain(words);
    expect(html).not.toMatch(/(src|href)="(?!data:)/);
    expect(html).not.toContain('<script');
    expect(html.match(/<svg/g)).toHaveLength(2);
  });

  it.each([
    ['A4', '595.28 x 841.89 pts (A4)'],
    ['LETTER', '612 x 792 pts (letter)'],
  ] as const)('is a PDF on %s, its words found by a reader from elsewhere (Poppler)', async (paper, size) => {
    const path = join(folder, `${paper}.pdf`);
    writeFileSync(path, await reportPdf(report, paper));
    const text = execFileSync('pdftotext', ['-layout', path, '-'], { encoding: 'utf8' }).replace(/\s+/g, ' ');
    for (const words of SAID) expect(text).toContain(words);
    const info = execFileSync('pdfinfo', [path], { encoding: 'utf8' });
    expect(info).toContain(`Page size:       ${size}`);
    const pages = Number(/Pages:\s+(\d+)/.exec(info)?.[1]);
    expect(pages).toBeGreaterThanOrEqual(2);
    expect(text).toMatch(new RegExp(`${pages} ?/ ?${pages}`));
    expect(execFileSync('pdffonts', [path], { encoding: 'utf8' })).toMatch(/Source ?Sans/i);
  });
});
