import type { FaultToMend, MethodChoice } from '@fennip/core/mend';
import type { Raster } from '@fennip/core/raster';
import { faultPlace, targetField } from '@fennip/core/bench';
import { linearToSrgb, srgbToLinear } from '@fennip/core/light';
import { applyMend, canvasOf, judgeMend, mendFault } from '@fennip/core/mend';
import { gaussian, mulberry } from '@fennip/core/random';
import { cloneRaster, createRaster, layPatch, pixelsOf, wholeWindow } from '@fennip/core/raster';
import type { Row } from './report.ts';
import { printTable } from './report.ts';

const [WIDTH, HEIGHT] = [240, 200];

/** A tone of 0 to 1 (encoded) for every place, and where the specks lie. */
interface HardPlace {
  readonly name: string;
  readonly tone: (x: number, y: number) => number;
  readonly grain: number;
  readonly specks: readonly { readonly x: number; readonly y: number; readonly r: number }[];
}

/** A step a pixel and a half wide, as a lens draws an edge. */
const edge = (distance: number): number => Math.min(1, Math.max(0, distance / 1.5 + 0.5));
const mix = (a: number, b: number, share: number): number => a + share * (b - a);
const MIDDLE = [{ x: 120, y: 100, r: 8 }];

const PLACES: readonly HardPlace[] = [
  {
    name: 'on a straight edge',
    tone: (x, y) => mix(0.3, 0.7, edge(0.8 * (x - 120) + 0.6 * (y - 100))),
    grain: 0.012,
    specks: MIDDLE,
  },
  {
    name: 'on a corner between three tones',
    tone: (x, y) => mix(mix(0.25, 0.55, edge(x - 120)), 0.8, edge(100 - y)),
    grain: 0.012,
    specks: MIDDLE,
  },
  {
    name: 'next to a white area',
    tone: (x) => mix(0.35, 1, edge(x - 131)),
    grain: 0.01,
    specks: MIDDLE,
  },
  { name: 'in a gradient', tone: (x) => 0.25 + (0.5 * x) / WIDTH, grain: 0.004, specks: MIDDLE },
  {
    name: 'in a fine weave',
    tone: (x, y) => 0.5 + 0.12 * Math.sin(1.9 * x) * Math.sin(1.7 * y) + 0.05 * Math.sin(0.6 * (x + y)),
    grain: 0.01,
    specks: MIDDLE,
  },
  { name: 'in noise', tone: () => 0.45, grain: 0.08, specks: MIDDLE },
  {
    name: "at the picture's border",
    tone: (x, y) => 0.5 + 0.1 * Math.sin(x / 9) * Math.cos(y / 7),
    grain: 0.015,
    specks: [{ x: 3, y: 100, r: 8 }],
  },
  {
    name: 'two that touch',
    tone: (x, y) => 0.5 + 0.1 * Math.sin(x / 9) * Math.cos(y / 7),
    grain: 0.015,
    specks: [
      { x: 114, y: 100, r: 7 },
      { x: 127, y: 102, r: 6 },
    ],
  },
];

/** A soft shadow lets light through; a hard grain does not. */
const LOOKS = [
  { name: 'soft', depth: 0.35, softness: 0.4, level: 0 },
  { name: 'hard', depth: 1, softness: 0.08, level: 0.03 },
] as const;

function pictureOf({ tone, grain }: HardPlace): Raster {
  const raster = createRaster(WIDTH, HEIGHT, 3, 8);
  const uniform = mulberry(3);
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) {
      const noise = grain * gaussian(uniform);
      raster.planes.forEach((plane, c) => {
        const value = tone(x + 0.5, y + 0.5) * (1 - 0.06 * c) + noise + 0.3 * grain * gaussian(uniform);
        plane[y * WIDTH + x] = Math.min(255, Math.max(0, Math.round(255 * value)));
      });
    }
  return raster;
}

function lay(clean: Raster, { specks }: HardPlace, look: (typeof LOOKS)[number]): Raster {
  const seen = cloneRaster(clean);
  for (const { x, y, r } of specks)
    for (let i = 0; i < WIDTH * HEIGHT; i++) {
      const away = Math.hypot((i % WIDTH) + 0.5 - x, Math.floor(i / WIDTH) + 0.5 - y) / r;
      const t = Math.min(1, Math.max(0, (1 + look.softness - away) / (2 * look.softness)));
      const share = look.depth * t * t * (3 - 2 * t);
      if (share === 0) continue;
      for (const plane of seen.planes) {
        const light = srgbToLinear(plane[i] / 255);
        plane[i] = Math.round(255 * linearToSrgb(light + share * (look.level - light)));
      }
    }
  return seen;
}

/** Root mean square error in codes of 255 over some pixels. */
function errorOver(a: Raster, b: Raster, inside: Uint8Array): number {
  let [sum, count] = [0, 0];
  a.planes.forEach((plane, c) => {
    for (let i = 0; i < plane.length; i++)
      if (inside[i]) {
        sum += (plane[i] - b.planes[c][i]) ** 2;
        count++;
      }
  });
  return Math.sqrt(sum / Math.max(1, count));
}

interface Outcome {
  readonly methods: string;
  readonly before: number;
  readonly after: number;
  /** Largest change outside all targets with their margins and edges, in codes. */
  readonly outside: number;
  readonly verdicts: readonly { readonly said: string; readonly isRight: boolean }[];
}

/** A result counts as good when it halves the error, or comes near what the grain alone makes of two like places. */
function isGood(before: number, after: number, grain: number): boolean {
  return after < 0.5 * before || after < 1.8 * 255 * grain + 1;
}

function carryOut(place: HardPlace, look: (typeof LOOKS)[number], choice: MethodChoice): Outcome {
  const clean = pictureOf(place);
  const seen = lay(clean, place, look);
  const faults = place.specks.map(({ x, y, r }, i): FaultToMend => ({
    id: `m${i}`,
    x: x + 0.1 * r,
    y: y - 0.08 * r,
    r: 1.1 * r,
    softness: look.softness,
    polarity: 'dark',
  }));
  const mended = cloneRaster(seen);
  const reached = new Uint8Array(WIDTH * HEIGHT);
  const verdicts: { said: string; isRight: boolean }[] = [];
  const methods = faults.map((fault) => {
    const surroundings = { avoid: faults.map(faultPlace), used: [] };
    const { mend } = mendFault(fault, surroundings, pixelsOf(seen), choice);
    const patch = applyMend(mend, canvasOf(pixelsOf(mended)));
    const { rect, coverage } = targetField(mend, pixelsOf(seen).shape, 0);
    const own = new Uint8Array(WIDTH * HEIGHT);
    coverage.forEach((amount, i) => {
      const at = (rect.top + Math.floor(i / rect.width)) * WIDTH + rect.left + (i % rect.width);
      if (amount > 0) reached[at] = own[at] = 1;
    });
    const judged = judgeMend(patch, pixelsOf(mended));
    const was = errorOver(mended, clean, own);
    layPatch(patch, wholeWindow(mended));
    const said = judged?.verdict ?? 'nothing changed';
    verdicts.push({
      said,
      isRight: (said === 'good') === isGood(was, errorOver(mended, clean, own), place.grain),
    });
    return mend.method;
  });
  const inside = reached;
  let outside = 0;
  mended.planes.forEach((plane, c) => {
    for (let i = 0; i < plane.length; i++)
      if (!reached[i]) outside = Math.max(outside, Math.abs(plane[i] - seen.planes[c][i]));
  });
  return {
    methods: [...new Set(methods)].join('+'),
    before: errorOver(seen, clean, inside),
    after: errorOver(mended, clean, inside),
    outside,
    verdicts,
  };
}

/** Specks on the places where mends go wrong: the error inside, what is changed outside, and what the mend says. */
export function benchHardPlaces(): void {
  const rows: Row[] = [];
  const all: { said: string; isRight: boolean }[] = [];
  for (const place of PLACES) {
    for (const look of LOOKS) {
      for (const choice of ['auto', 'heal', 'bridge'] as const) {
        const { methods, before, after, outside, verdicts } = carryOut(place, look, choice);
        all.push(...verdicts);
        rows.push([
          `${look.name} speck ${place.name}, ${choice}`,
          choice === 'auto' ? methods : '',
          before,
          after,
          outside,
          verdicts.map(({ said }) => said).join('; '),
          verdicts.every(({ isRight }) => isRight) ? 'right' : 'wrong',
        ]);
      }
    }
  }
  printTable(
    'Hard places: root mean square error in codes of 255',
    ['place', 'chosen', 'before', 'after', 'outside', 'verdict', 'which is'],
    rows,
  );
  const right = all.filter(({ isRight }) => isRight).length;
  const missed = all.filter(({ said, isRight }) => said === 'good' && !isRight).length;
  console.log(`\nVerdicts right: ${right} of ${all.length}; bad mends called good: ${missed}`);
}
