import { readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Assembly, Placement } from '@fennip/core/join';
import { joinScans, placeAt, renderAssembly } from '@fennip/core/join';
import type { Raster } from '@fennip/core/raster';
import { cloneRaster, fullScale } from '@fennip/core/raster';
import { lanczos } from '@fennip/core/resample';
import { polygonPixels } from '@fennip/core/target';
import { decodePicture } from '@fennip/files';
import type { TornPrint, TornScan } from '@fennip/scenes';
import { coverOf, ontoPrint, ontoScan, scanPieces, tearPrint } from '@fennip/scenes';
import { loadPhotographs } from './photographs.ts';
import type { Row } from './report.ts';
import { printTable } from './report.ts';
import { throughSharp } from './train/throughSharp.ts';

const FOLDER = fileURLToPath(new URL('../../.fennip/photographs', import.meta.url));

/** How many pieces, one scan after the other: as many of up to four as of more. */
const COUNTS = [2, 4, 3, 6, 4, 8, 2, 5, 3, 7, 4];
const GROUNDS = [0.93, 0.05, 0.5];
const FIBRES = [10, 4, 12, 0, 8];
/** Nearer than this to where it belongs a piece is placed, in pixels. */
const PLACED = 3;
/** A join that is at least so sure is called sure. */
const SURE = 0.9;
/** Original pixels so far from all seams are held against the print, in pixels. */
const OFF_SEAMS = 16;
/** So far around what was found the true piece is looked for, in pixels. */
const AROUND = 40;

/** A print, how it was torn, and the scan of its pieces. */
interface TornCase {
  readonly name: string;
  readonly picture: Raster;
  readonly print: TornPrint;
  readonly torn: TornScan;
}

/** Scans of torn photographs, each with pieces, ground, fibre and file format of its own. */
async function* tornCases(part: 'training' | 'validation'): AsyncGenerator<TornCase> {
  const names = (await readdir(join(FOLDER, part)).catch(() => []))
    .filter((name) => name.endsWith('.png'))
    .sort();
  const open = part === 'validation' ? await loadPhotographs() : [];
  const count = names.length + open.length;
  for (let k = 0; k < count; k++) {
    const { name, raster } =
      k < open.length
        ? open[k]
        : {
            name: names[k - open.length],
            raster: (await decodePicture(join(FOLDER, part, names[k - open.length]))).raster,
          };
    const picture = cloneRaster(raster);
    const pieces = COUNTS[k % COUNTS.length];
    const print = tearPrint(picture.width, picture.height, {
      pieces,
      fibre: FIBRES[k % FIBRES.length],
      crumbs: k % 3,
      seed: 4000 + k,
    });
    const ground = GROUNDS[k % GROUNDS.length];
    const torn = scanPieces(picture, print, { seed: 7000 + k, ground, turn: Math.PI, noise: 0.004 });
    const scan =
      k % 2 === 0 ? torn.scan : await throughSharp(torn.scan, (image) => image.jpeg({ quality: 92 }));
    yield { name: name.replace('.png', ''), picture, print, torn: { ...torn, scan } };
  }
}

/** Places spread over each piece of the print, as indices of pixels of the scan. */
function samplesOn({ print, torn }: TornCase): number[][] {
  const step = Math.max(print.width, print.height) / 60;
  return print.pieces.map((piece, k) => {
    const places: number[] = [];
    for (let y = step / 2; y < print.height; y += step)
      for (let x = step / 2; x < print.width; x += step) {
        if (coverOf(print, piece, x, y).whole < 1) continue;
        const [sx, sy] = ontoScan(torn.placements[k], x, y);
        places.push(Math.floor(sy) * torn.scan.width + Math.floor(sx));
      }
    return places;
  });
}

/** Columns and rows of a scan that are no farther than {@link AROUND} from marked pixels. */
function nearMarked(marked: Uint8Array, width: number): { columns: Uint8Array; rows: Uint8Array } {
  const columns = new Uint8Array(width);
  const rows = new Uint8Array(marked.length / width);
  marked.forEach((is, i) => {
    if (!is) return;
    const [x, y] = [i % width, Math.floor(i / width)];
    columns.fill(1, Math.max(0, x - AROUND), x + AROUND + 1);
    rows.fill(1, Math.max(0, y - AROUND), y + AROUND + 1);
  });
  return { columns, rows };
}

/** How much of what one of two sets of pixels holds is common to both; the true one is asked for only around the found one. */
function likeness({ print, torn }: TornCase, k: number, found: Uint8Array): number {
  const { width } = torn.scan;
  const { columns, rows } = nearMarked(found, width);
  let [both, either] = [0, 0];
  found.forEach((isFound, i) => {
    const [x, y] = [i % width, Math.floor(i / width)];
    if (!columns[x] || !rows[y]) return;
    const [px, py] = ontoPrint(torn.placements[k], x + 0.5, y + 0.5);
    const isNear = px > -1 && py > -1 && px < print.width + 1 && py < print.height + 1;
    const isTrue = isNear && coverOf(print, print.pieces[k], px, py).whole >= 0.5;
    both += isTrue && isFound ? 1 : 0;
    either += isTrue || isFound ? 1 : 0;
  });
  return both / Math.max(1, either);
}

/** Places along the tear between two pieces of a print, in its pixels. */
function tearBetween(print: TornPrint, a: number, b: number): [x: number, y: number][] {
  const places: [number, number][] = [];
  const step = 3;
  const on = (k: number, x: number, y: number): boolean =>
    coverOf(print, print.pieces[k], x, y).picture >= 0.5;
  for (let y = step; y < print.height - step; y += step)
    for (let x = step; x < print.width - step; x += step) {
      const isBetween =
        (on(a, x, y) && (on(b, x + step, y) || on(b, x, y + step))) ||
        (on(b, x, y) && (on(a, x + step, y) || on(a, x, y + step)));
      if (isBetween) places.push([x, y]);
    }
  return places;
}

/** What joining made of a scan. */
interface Judged {
  readonly iou: readonly number[];
  readonly isPlaced: boolean;
  readonly mean: number;
  readonly worst: number;
  readonly wrongButSure: number;
  readonly decibels: number;
  readonly seconds: number;
}

/** How far apart two true neighbours lie along their tear after joining, in pixels. */
function apart(torn: TornCase, a: number, b: number, placeA: Placement, placeB: Placement): number[] {
  return tearBetween(torn.print, a, b).map((at) => {
    const [ax, ay] = placeAt(placeA, ontoScan(torn.torn.placements[a], ...at));
    const [bx, by] = placeAt(placeB, ontoScan(torn.torn.placements[b], ...at));
    return Math.hypot(ax - bx, ay - by);
  });
}

/** Signal to noise of the joined picture's original pixels off the seams against the print itself, in decibels. */
function keptDecibels({ picture, torn }: TornCase, assembly: Assembly, truthOf: readonly number[]): number {
  const { raster, origin } = renderAssembly([torn.scan], assembly);
  const { width, height } = raster;
  const value = picture.planes.map(() => new Float32Array(1));
  let [sum, count] = [0, 0];
  const isOff = (x: number, y: number): boolean => {
    const here = origin[y * width + x];
    for (const dx of [-OFF_SEAMS, 0, OFF_SEAMS])
      for (const dy of [-OFF_SEAMS, 0, OFF_SEAMS])
        if (origin[(y + dy) * width + x + dx] !== here) return false;
    return here > 0;
  };
  const inverse = assembly.pieces.map(({ placement }) => placement);
  for (let y = OFF_SEAMS; y < height - OFF_SEAMS; y += 3)
    for (let x = OFF_SEAMS; x < width - OFF_SEAMS; x += 3) {
      if (!isOff(x, y)) continue;
      const k = origin[y * width + x] - 1;
      const placed = inverse[k];
      if (!placed || truthOf[k] < 0) continue;
      const { angle, dx, dy } = placed;
      const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
      const [u, v] = [x + 0.5 - dx, y + 0.5 - dy];
      const [px, py] = ontoPrint(torn.placements[truthOf[k]], cos * u + sin * v, cos * v - sin * u);
      lanczos({ ...picture, stride: picture.width }, picture.planes, px, py, 1, value, 0);
      for (let c = 0; c < value.length; c++) {
        sum += ((raster.planes[c][y * width + x] - value[c][0]) / fullScale(picture.depth)) ** 2;
        count++;
      }
    }
  return count === 0 ? 0 : -10 * Math.log10(sum / count);
}

function judge(torn: TornCase): Judged {
  const { print } = torn;
  const { scan } = torn.torn;
  const start = performance.now();
  const assembly = joinScans([scan]);
  const seconds = (performance.now() - start) / 1000;
  const none = { mean: NaN, worst: NaN, wrongButSure: 0, decibels: NaN, seconds };
  if (!assembly) return { iou: print.pieces.map(() => 0), isPlaced: false, ...none };
  const box = { left: 0, top: 0, width: scan.width, height: scan.height };
  const masks = assembly.pieces.map(({ paper }) => polygonPixels(paper, box));
  const samples = samplesOn(torn);
  const truthOf = masks.map((mask) => {
    const shares = samples.map((places) => places.filter((i) => mask[i] === 1).length / places.length);
    const most = Math.max(...shares);
    return most > 0.5 ? shares.indexOf(most) : -1;
  });
  const iou = print.pieces.map((_, k) => {
    const found = truthOf.indexOf(k);
    return found < 0 ? 0 : likeness(torn, k, masks[found]);
  });
  const tears: number[][] = [];
  let wrongButSure = 0;
  assembly.pieces.forEach(({ placement: placeA }, i) =>
    assembly.pieces.slice(i + 1).forEach(({ placement: placeB }, more) => {
      const j = i + 1 + more;
      const [a, b] = [truthOf[i], truthOf[j]];
      const join = assembly.joins.find(({ pieces: [p, q] }) => p === i && q === j);
      const between = a >= 0 && b >= 0 && placeA && placeB ? apart(torn, a, b, placeA, placeB) : [];
      if (between.length > 12) tears.push(between);
      const isWrong = between.length <= 12 || Math.max(...between) > PLACED;
      if (join && join.confidence >= SURE && isWrong) wrongButSure++;
    }),
  );
  const all = tears.flat();
  const worst = all.reduce((most, value) => Math.max(most, value), 0);
  const isPlaced =
    assembly.pieces.length === print.pieces.length &&
    assembly.pieces.every(({ placement }) => placement !== null) &&
    worst <= PLACED;
  const mean = all.reduce((sum, value) => sum + value, 0) / all.length;
  return {
    iou,
    isPlaced,
    mean,
    worst,
    wrongButSure,
    decibels: keptDecibels(torn, assembly, truthOf),
    seconds,
  };
}

/**
 * Joins scans of torn photographs: what is found, what is placed without a hand, how far apart borders lie that were one, and
 * what of the original pixels is kept.
 */
export async function benchTorn(part: 'training' | 'validation', most = Infinity): Promise<void> {
  const rows: Row[] = [];
  const judged: (Judged & { readonly count: number })[] = [];
  for await (const torn of tornCases(part)) {
    if (judged.length >= most) break;
    const one = judge(torn);
    const count = torn.print.pieces.length;
    judged.push({ ...one, count });
    const row: Row = [
      torn.name,
      `${count}`,
      `${torn.torn.scan.width} x ${torn.torn.scan.height}`,
      Math.min(...one.iou).toFixed(4),
      one.isPlaced ? 'yes' : 'no',
      one.mean,
      one.worst,
      `${one.wrongButSure}`,
      one.decibels,
      one.seconds,
    ];
    console.log(row.join(' '));
    rows.push(row);
  }
  printTable(
    'Torn prints, joined without a hand (px: misfit along the tears)',
    [
      'photograph',
      'pieces',
      'scan',
      'least IoU',
      'placed',
      'mean px',
      'worst px',
      'wrong but sure',
      'dB kept',
      's',
    ],
    rows,
  );
  const share = (group: typeof judged): string =>
    `${group.filter(({ isPlaced }) => isPlaced).length} of ${group.length}`;
  const placed = judged.filter(({ isPlaced }) => isPlaced);
  const ious = judged.flatMap(({ iou }) => iou);
  printTable(
    'All scans',
    ['what', 'figure'],
    [
      ['placed, up to 4 pieces', share(judged.filter(({ count }) => count <= 4))],
      ['placed, up to 8 pieces', share(judged.filter(({ count }) => count > 4))],
      ['pieces found (IoU above 0.5)', `${ious.filter((iou) => iou > 0.5).length} of ${ious.length}`],
      ['least IoU', Math.min(...ious).toFixed(4)],
      ['pieces of IoU 0.99', `${ious.filter((iou) => iou >= 0.99).length} of ${ious.length}`],
      ['misfit where placed, mean', placed.reduce((sum, { mean }) => sum + mean, 0) / placed.length],
      ['misfit where placed, worst', Math.max(...placed.map(({ worst }) => worst))],
      ['wrong joins called sure', judged.reduce((sum, { wrongButSure }) => sum + wrongButSure, 0)],
      ['original pixels kept, least dB', Math.min(...placed.map(({ decibels }) => decibels))],
    ],
  );
}
