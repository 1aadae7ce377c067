import { createHash } from 'node:crypto';
import { open } from 'node:fs/promises';
import type { MessagePort } from 'node:worker_threads';
import type {
  CarriedRecipe,
  ChartFrame,
  ChartedPlace,
  Depth,
  DustChart,
  ExamineTile,
  FaultToMend,
  LedgerEntry,
  Mend,
  MeasuredPart,
  MendProposal,
  MendSurroundings,
  Pixels,
  Placement,
  Raster,
  Recipe,
  SensorShape,
} from '@fennip/core';
import {
  applyMend,
  canvasOf,
  carryRecipe,
  cloneRaster,
  intersectRects,
  layPatch,
  chartDust,
  chartFaults,
  measureGrain,
  mendFault,
  noiseTable,
  pictureRect,
  sourcePlace,
  bytesPerSample,
  copyRaster,
  examineTile,
  examineWhole,
  pixelsOf,
  rasterOver,
  renderRecipe,
} from '@fennip/core';
import type { DeliverySettings, ReportFacts, ReportPaper } from '@fennip/files';
import {
  PictureError,
  buildReport,
  decodePicture,
  deliverLayers,
  deliverRecipe,
  encodePicture,
  reportHtml,
  reportPdf,
} from '@fennip/files';
import type { StoredFile } from '../store/store.ts';
import type { TakenBackMend } from './takenBack.ts';
import { takenBack } from './takenBack.ts';
import { writePyramid } from '../store/pyramid.ts';

/** A raster whose samples all threads can read. */
export interface SharedRaster {
  readonly buffer: SharedArrayBuffer;
  readonly width: number;
  readonly height: number;
  readonly channels: number;
  readonly depth: Depth;
}

/** Asks for a condition report. */
export interface ReportTask {
  readonly task: 'report';
  readonly original: string;
  readonly mostPixels: number;
  readonly recipe: Recipe;
  readonly entries: readonly LedgerEntry[];
  readonly facts: ReportFacts;
  /** As one HTML file, or as PDF on a paper. */
  readonly as: 'html' | ReportPaper;
}

/** Asks to hold a picture that comes back against what was sent. */
export interface TakeBackTask {
  readonly task: 'take back';
  readonly original: string;
  readonly returned: string;
  readonly mostPixels: number;
  readonly sent: Recipe;
  readonly mends: readonly Mend[];
  readonly id: string;
}

/** What a thread can be asked to do. */
export type ThreadTask =
  | ReportTask
  | TakeBackTask
  | {
      readonly task: 'prepare';
      readonly original: string;
      readonly folder: string;
      readonly mostPixels: number;
      readonly port: MessagePort;
    }
  | {
      readonly task: 'load';
      readonly original: string;
      readonly mostPixels: number;
      /** Laid down on the picture; none loads it as it came in. */
      readonly recipe: Recipe | null;
    }
  | {
      readonly task: 'examine';
      readonly raster: SharedRaster;
      readonly tile: ExamineTile;
    }
  | { readonly task: 'examine whole'; readonly raster: SharedRaster }
  | {
      readonly task: 'chart';
      readonly sensor: SensorShape;
      readonly frames: readonly (ChartFrame & { readonly original: string })[];
      readonly mostPixels: number;
      readonly port: MessagePort;
    }
  | {
      readonly task: 'chart faults';
      readonly original: string;
      readonly mostPixels: number;
      readonly chart: DustChart;
      readonly placement: Placement;
      readonly fNumber: number | null;
    }
  | {
      readonly task: 'mend';
      readonly original: string;
      readonly mostPixels: number;
      readonly faults: readonly FaultToMend[];
      readonly surroundings: MendSurroundings;
    }
  | {
      readonly task: 'propose';
      readonly original: string;
      readonly mostPixels: number;
      readonly fault: FaultToMend;
      readonly surroundings: MendSurroundings;
    }
  | { readonly task: 'noise'; readonly original: string; readonly mostPixels: number }
  | {
      readonly task: 'carry';
      readonly original: string;
      readonly mostPixels: number;
      readonly recipe: Recipe;
      readonly picture: string;
      readonly from: Placement;
      readonly to: Placement;
      /** Ids of the mends to come, one for each of the recipe's. */
      readonly ids: readonly string[];
    }
  | {
      readonly task: 'deliver';
      readonly original: string;
      readonly mostPixels: number;
      readonly recipe: Recipe;
      readonly settings: ThreadDelivery;
      readonly onto: string;
      readonly port: MessagePort;
    };

/** Said on the port while a pyramid is written. */
export interface LevelWritten {
  readonly level: number;
  readonly share: number;
}

/** Errors lose their class between threads: a refused picture comes back as this. */
export interface Refused {
  readonly refused: string;
}

type Outcome =
  | undefined
  | SharedRaster
  | MeasuredPart
  | StoredFile
  | DustChart
  | readonly ChartedPlace[]
  | readonly MendProposal[]
  | SeenProposal
  | readonly number[]
  | CarriedRecipe
  | Uint8Array
  | TakenBackMend;

async function prepare(task: Extract<ThreadTask, { task: 'prepare' }>): Promise<undefined> {
  const { raster } = await decodePicture(task.original, { pixels: task.mostPixels });
  await writePyramid(task.folder, raster, (level, share) =>
    task.port.postMessage({ level, share } satisfies LevelWritten),
  );
}

async function load(task: Extract<ThreadTask, { task: 'load' }>): Promise<SharedRaster> {
  const { raster, header } = await decodePicture(task.original, { pixels: task.mostPixels });
  if (task.recipe) renderRecipe(raster, task.recipe, header.transfer ? { transfer: header.transfer } : {});
  const { width, height, depth } = raster;
  const channels = raster.planes.length;
  const buffer = new SharedArrayBuffer(width * height * channels * bytesPerSample(depth));
  copyRaster(raster, rasterOver(buffer, width, height, channels, depth), 0, 0);
  return { buffer, width, height, channels, depth };
}

const sharedPixels = ({ buffer, width, height, channels, depth }: SharedRaster): Raster =>
  rasterOver(buffer, width, height, channels, depth);

/** What a delivery is made into. */
export type ThreadDelivery =
  | DeliverySettings
  /** In layers, named by the lines of the ledger. */
  | { readonly format: 'ora'; readonly entries: readonly LedgerEntry[] };

async function delivered(task: Extract<ThreadTask, { task: 'deliver' }>): Promise<Buffer> {
  const { settings, recipe, port, original } = task;
  const limits = { pixels: task.mostPixels };
  if (settings.format === 'ora') {
    const { raster, header } = await decodePicture(original, limits);
    return deliverLayers(raster, header, recipe, settings.entries);
  }
  return deliverRecipe(original, recipe, settings, limits, (done) => {
    if (done % 50 === 0) port.postMessage(0.2 + (0.5 * done) / recipe.mends.length);
  });
}

async function deliver(task: Extract<ThreadTask, { task: 'deliver' }>): Promise<StoredFile> {
  const bytes = await delivered(task);
  const file = await open(task.onto, 'w');
  try {
    await file.writeFile(bytes);
    await file.sync();
  } finally {
    await file.close();
  }
  return { sha256: createHash('sha256').update(bytes).digest('hex'), sizeBytes: bytes.length };
}

async function report(task: ReportTask): Promise<Uint8Array> {
  const { raster, header } = await decodePicture(task.original, { pixels: task.mostPixels });
  const built = await buildReport(raster, header, task.recipe, task.entries, task.facts);
  return task.as === 'html' ? Buffer.from(reportHtml(built)) : reportPdf(built, task.as);
}

async function takeBack({ original, returned, mostPixels, ...task }: TakeBackTask): Promise<TakenBackMend> {
  const [own, came] = [
    await decodePicture(original, { pixels: mostPixels }),
    await decodePicture(returned, { pixels: mostPixels }),
  ];
  return takenBack(own, came, task);
}

/** The original as its file holds it. */
async function pixelsAt(original: string, mostPixels: number): Promise<Pixels> {
  const { raster, header } = await decodePicture(original, { pixels: mostPixels });
  return pixelsOf(raster, header.transfer);
}

async function chart({
  sensor,
  frames,
  mostPixels,
  port,
}: Extract<ThreadTask, { task: 'chart' }>): Promise<DustChart> {
  return chartDust(
    sensor,
    frames,
    (frame) => pixelsAt(frames[frame].original, mostPixels),
    (share) => port.postMessage(share),
  );
}

async function proposeAll(task: Extract<ThreadTask, { task: 'mend' }>): Promise<MendProposal[]> {
  const pixels = await pixelsAt(task.original, task.mostPixels);
  const used = [...task.surroundings.used];
  return task.faults.map((fault) => {
    const proposal = mendFault(fault, { ...task.surroundings, used }, pixels);
    const place = sourcePlace(proposal.mend);
    if (place) used.push(place);
    return proposal;
  });
}

/** A proposed mend and its place before and with it, as PNG. */
export interface SeenProposal {
  readonly proposal: MendProposal;
  /** Half the side of the square that is shown, in pixels. */
  readonly half: number;
  readonly before: Uint8Array;
  readonly after: Uint8Array;
}

/** How much around a fault is shown, in radii and in pixels. */
const SHOWN = { radii: 4, least: 40, most: 250 };

async function propose(task: Extract<ThreadTask, { task: 'propose' }>): Promise<SeenProposal> {
  const pixels = await pixelsAt(task.original, task.mostPixels);
  const { fault, surroundings } = task;
  const proposal = mendFault(fault, surroundings, pixels);
  const half = Math.round(Math.min(SHOWN.most, Math.max(SHOWN.least, SHOWN.radii * fault.r)));
  const place = {
    left: Math.round(fault.x) - half,
    top: Math.round(fault.y) - half,
    width: 2 * half,
    height: 2 * half,
  };
  const window = pixels.window(intersectRects(place, pictureRect(pixels.shape)));
  const after = cloneRaster(window.raster);
  const patch = applyMend(proposal.mend, canvasOf(pixels, surroundings.fences ?? []));
  layPatch(patch, { ...window, raster: after });
  const png = (raster: Raster): Promise<Buffer> =>
    encodePicture(raster, {}, { format: 'png', quality: 100, depth: 8 });
  return { proposal, half, before: await png(window.raster), after: await png(after) };
}

async function carry(task: Extract<ThreadTask, { task: 'carry' }>): Promise<CarriedRecipe> {
  const pixels = await pixelsAt(task.original, task.mostPixels);
  const { recipe, picture, from, to, ids } = task;
  return carryRecipe(recipe, { picture, from, to, idFor: (index) => ids[index] }, pixels);
}

function carryOut(task: ThreadTask): Promise<Outcome> {
  switch (task.task) {
    case 'prepare':
      return prepare(task);
    case 'load':
      return load(task);
    case 'examine':
      return Promise.resolve(examineTile(task.tile, pixelsOf(sharedPixels(task.raster))));
    case 'examine whole':
      return Promise.resolve(examineWhole(pixelsOf(sharedPixels(task.raster))));
    case 'chart':
      return chart(task);
    case 'chart faults':
      return pixelsAt(task.original, task.mostPixels).then((pixels) =>
        chartFaults(task.chart, pixels, task.placement, task.fNumber),
      );
    case 'mend':
      return proposeAll(task);
    case 'propose':
      return propose(task);
    case 'noise':
      return pixelsAt(task.original, task.mostPixels).then(({ shape, window }) =>
        noiseTable(measureGrain(window(pictureRect(shape)).raster)),
      );
    case 'carry':
      return carry(task);
    case 'deliver':
      return deliver(task);
    case 'report':
      return report(task);
    case 'take back':
      return takeBack(task);
  }
}

/** Runs in a thread of its own. */
export default async function thread(task: ThreadTask): Promise<Outcome | Refused> {
  try {
    return await carryOut(task);
  } catch (error) {
    if (error instanceof PictureError) return { refused: error.message };
    throw error;
  }
}
