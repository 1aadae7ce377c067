/**
 * Writes the recipes whose rendering is pinned, and their digests: `node packages/threads/bin/run.mjs bench/src/pinned/makeRecipes.ts`.
 * They are documents of the version that wrote them. Run it again only when a change of pixels is meant; a recipe
 * that is there already is kept, so that documents of earlier versions go on being read.
 */
import { existsSync } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import type { Fence } from '@fennip/core/fence';
import type { FinishStep } from '@fennip/core/finish';
import type { FaultToMend, Mend } from '@fennip/core/mend';
import type { Pixels } from '@fennip/core/raster';
import type { Recipe } from '@fennip/core/recipe';
import type { Target } from '@fennip/core/target';
import { examinePicture } from '@fennip/core/examine';
import { measureGrainModel, measureGrain, noiseTable } from '@fennip/core/grain';
import { labStatistics, proposeMend, proposeMends } from '@fennip/core/mend';
import { pixelsOf } from '@fennip/core/raster';
import { emptyRecipe } from '@fennip/core/recipe';
import { digestFindings, digestRendering, recipeFile, DIGESTS_FILE } from './digests.ts';
import type { Digests } from './digests.ts';
import { SIDES, SUBJECTS, loadSubject } from './subjects.ts';

/** So many of the surest findings of each kind are mended as the program would. */
const PER_KIND = 5;

const FENCES: readonly Fence[] = [
  {
    ...{ id: 'guard', kind: 'guard', name: 'guard', edge: 0, on: true },
    area: { shape: 'disc', x: 70, y: 340, r: 24 },
  },
  {
    ...{ id: 'zone', kind: 'zone', name: 'zone', edge: 6, on: true },
    area: {
      shape: 'outline',
      points: [
        [300, 20],
        [540, 30],
        [520, 220],
        [310, 200],
      ],
    },
  },
];

/** Mends of places, each method by each kind of target it takes. */
function byHand(pixels: Pixels): Mend[] {
  const surroundings = { avoid: [], used: [], fences: FENCES };
  const place = (
    id: string,
    target: Target,
    method: 'auto' | 'recover' | 'heal' | 'clone' | 'bridge' | 'rebuild',
  ) => proposeMend({ id, target, margin: 2 }, surroundings, pixels, method).mend;
  const stroke = (x: number, y: number, width: number): Target => ({
    ...{ shape: 'stroke', width },
    points: [
      [x, y],
      [x + 30, y + 6],
      [x + 62, y - 4],
    ],
  });
  const clone = place('hc', { shape: 'disc', x: 200, y: 90, r: 9 }, 'clone');
  const rebuilt = place('hb', { shape: 'disc', x: 440, y: 320, r: 16 }, 'rebuild');
  return [
    place('h1', { shape: 'disc', x: 60, y: 60, r: 7 }, 'recover'),
    place('h2', { shape: 'disc', x: 84, y: 330, r: 12 }, 'heal'),
    ...(clone.method === 'clone'
      ? [
          clone,
          {
            ...clone,
            id: 'hd',
            target: stroke(210, 140, 9),
            laying: 'fixed',
            buildUp: true,
            share: 0.6,
          } as const,
          { ...clone, id: 'he', target: stroke(210, 170, 9), reads: 'original', only: 'lighten' } as const,
          {
            ...clone,
            id: 'hf',
            target: { shape: 'disc', x: 130, y: 200, r: 14 },
            source: { dx: 60, dy: 20, mirror: true, turn: 0.4, scale: 1.3 },
          } as const,
        ]
      : []),
    place('h3', stroke(60, 120, 3), 'bridge'),
    place('h4', stroke(330, 110, 5), 'heal'),
    place('h5', { shape: 'disc', x: 330, y: 60, r: 6 }, 'bridge'),
    rebuilt,
    ...(rebuilt.method === 'rebuild'
      ? [
          {
            ...rebuilt,
            id: 'hg',
            target: {
              shape: 'outline',
              points: [
                [360, 330],
                [392, 336],
                [388, 362],
                [362, 358],
              ],
            },
            seed: 3,
            guides: [
              {
                points: [
                  [350, 346],
                  [404, 350],
                ],
              },
            ],
            variants: ['mirrored'],
          } as const,
        ]
      : []),
    { ...place('h6', { shape: 'disc', x: 480, y: 90, r: 9 }, 'heal'), zone: 'zone', share: 0.5 },
    { ...place('h7', { shape: 'disc', x: 520, y: 390, r: 8 }, 'heal'), on: false },
  ];
}

/** Every treatment, each on a place of its own. */
function treatments(pixels: Pixels): Mend[] {
  const { raster } = pixels.window({ left: 0, top: 0, ...SIDES });
  const grain = measureGrainModel(raster);
  const noise = noiseTable(measureGrain(raster));
  const base = (id: string, target: Target) => ({ id, target, margin: 1, edge: 3, share: 1, on: true });
  const box = (left: number, top: number, width: number, height: number): Target => ({
    shape: 'outline',
    points: [
      [left, top],
      [left + width, top],
      [left + width, top + height],
      [left, top + height],
    ],
  });
  const [from, to] = [
    labStatistics(box(20, 240, 60, 40), pixels),
    labStatistics(box(200, 240, 60, 40), pixels),
  ];
  const channels = raster.planes.length >= 3 ? 3 : 1;
  const returned = { shape: 'mask', left: 500, top: 300, width: 4, height: 2, runs: [1, 2, 2, 3] } as const;
  const values = new Uint8Array(5 * channels * (raster.depth / 8)).map((_, i) => (i * 37 + 11) % 256);
  return [
    {
      ...base('t1', box(300, 20, 120, 90)),
      method: 'sift',
      radius: 6,
      threshold: 3,
      polarity: 'both',
      detail: 12,
      noise,
      zone: 'zone',
    },
    { ...base('t2', box(20, 240, 80, 50)), method: 'regrain', strength: 1, grain },
    {
      ...base('t3', box(120, 240, 80, 50)),
      method: 'tone',
      exposure: 0.4,
      range: 'shadows',
      contrast: 0.5,
      contrastSize: 9,
      hue: 12,
      saturation: 1.3,
      lightness: 2,
    },
    { ...base('t4', box(220, 240, 50, 50)), method: 'soften', sigma: 1.7, along: null },
    { ...base('t5', box(280, 240, 50, 50)), method: 'soften', sigma: 2.2, along: 0.6 },
    ...(from && to ? [{ ...base('t6', box(340, 240, 50, 50)), method: 'match', from, to } as const] : []),
    { ...base('t7', box(400, 240, 50, 50)), method: 'shift', dx: 3, dy: -2, keeps: 'darker' },
    {
      ...base('t8', box(460, 240, 60, 50)),
      ...{ method: 'draw', fade: 4, strength: 1, grain, colour: channels === 3 ? [0.3, 0.28, 0.24] : [0.3] },
      paint: [
        {
          shape: {
            shape: 'stroke',
            points: [
              [464, 250],
              [512, 280],
            ],
            width: 4,
          },
          edge: 1.5,
          amount: 0.4,
          lays: 'in',
        },
      ],
    },
    {
      ...base('t9', returned),
      margin: 0,
      edge: 0,
      method: 'return',
      depth: raster.depth,
      values: Buffer.from(values).toString('base64'),
    },
  ];
}

const FINISH: readonly FinishStep[] = [
  { id: 's1', on: true, share: 1, method: 'levels', tones: [{ black: 0.02, white: 0.96, gamma: 1.1 }] },
  {
    id: 's2',
    on: true,
    share: 0.7,
    method: 'curve',
    points: [
      [0, 0],
      [0.3, 0.26],
      [0.7, 0.75],
      [1, 1],
    ],
  },
  {
    id: 's3',
    on: true,
    share: 1,
    zone: 'zone',
    method: 'colour',
    temperature: 0.3,
    tint: -0.1,
    saturation: 1.2,
  },
  { id: 's4', on: true, share: 1, method: 'contrast', amount: 0.3, size: 24 },
  {
    id: 's5',
    on: true,
    share: 1,
    method: 'sharpen',
    way: 'unsharp',
    radius: 1.2,
    amount: 0.8,
    threshold: 0.01,
  },
  {
    id: 's6',
    on: true,
    share: 0.5,
    method: 'sharpen',
    way: 'deconvolve',
    radius: 0.8,
    amount: 1,
    threshold: 0.01,
  },
  { id: 's7', on: true, share: 0.6, method: 'soften', radius: 1.5 },
  { id: 's8', on: true, share: 1, method: 'lens', k1: -0.03, k2: 0.004 },
  { id: 's9', on: true, share: 1, method: 'straighten', angle: 0.015 },
  { id: 's10', on: true, share: 1, method: 'crop', left: 40, top: 30, width: 450, height: 330 },
];

const digests: { recipes: Record<string, unknown>; findings: Record<string, string> } = {
  recipes: {},
  findings: {},
};
for (const subject of SUBJECTS)
  for (const depth of [8, 16] as const) {
    const name = `${subject.name}-${depth}`;
    const raster = await loadSubject(subject, depth);
    const pixels = pixelsOf(raster);
    const found = examinePicture(
      pixels,
      { polarities: ['dark', 'bright'], sensitivity: 0.9 },
      subject.nature,
    );
    digests.findings[name] = digestFindings(found);
    const path = recipeFile(name);
    if (!existsSync(path)) {
      const counts = new Map<string, number>();
      const chosen = found.filter(({ kind }) => {
        counts.set(kind, (counts.get(kind) ?? 0) + 1);
        return (counts.get(kind) ?? 0) <= PER_KIND;
      });
      const faults = chosen.map((fault, i): FaultToMend => ({ ...fault, id: `m${i}`, fault: `f${i}` }));
      const recipe: Recipe = {
        ...emptyRecipe(SIDES),
        fences: FENCES,
        mends: [...proposeMends(faults, pixels), ...byHand(pixels), ...treatments(pixels)],
        finish: FINISH,
      };
      await writeFile(path, `${JSON.stringify(recipe)}\n`);
      console.log(name, [...counts].join(' '), recipe.mends.map(({ method }) => method).join(' '));
    }
    digests.recipes[name] = await digestRendering(name, raster);
  }
await writeFile(
  DIGESTS_FILE,
  `${JSON.stringify(digests satisfies { [K in keyof Digests]: unknown }, null, 2)}\n`,
);
