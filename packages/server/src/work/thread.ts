import type { Said } from '@fennip/words';
import { createHash } from 'node:crypto';
import { open } from 'node:fs/promises';
import type { MessagePort } from 'node:worker_threads';
import type { CarriedRecipe } from '@fennip/core/carry';
import type {
  ChartFrame,
  ChartedPlace,
  DustChart,
  Placement,
  SensorShape,
  SpannedCharts,
} from '@fennip/core/chart';
import type { ExamineTile, MeasuredPart, PictureNature, PrintSigns } from '@fennip/core/examine';
import type { Fault } from '@fennip/core/fault';
import type { FinishStep } from '@fennip/core/finish';
import type { LedgerEntry } from '@fennip/core/ledger';
import type { Transfer } from '@fennip/core/light';
import type { FaultToMend, Mend, MendProposal, MendSurroundings } from '@fennip/core/mend';
import type { Pixels, Raster } from '@fennip/core/raster';
import type { Recipe, RenderGround, RenderPart } from '@fennip/core/recipe';
import { carryRecipe } from '@fennip/core/carry';
import { locateOnSensor, chartFaults, chartSpans } from '@fennip/core/chart';
import { printSigns, examineTile, examineWhole, scoreWithNet } from '@fennip/core/examine';
import type { GrainModel } from '@fennip/core/grain';
import { measureGrainModel } from '@fennip/core/grain';
import { applyMend, canvasOf, mendFault, mendsInTurn } from '@fennip/core/mend';
import { cloneRaster, intersectRects, layPatch, pictureRect, pixelsOf } from '@fennip/core/raster';
import { renderPart } from '@fennip/core/recipe';
import type { DeliverySettings, ReportFacts, ReportPaper, ReportedPicture } from '@fennip/files';
import {
  PictureError,
  buildReport,
  decodePicture,
  readHeader,
  deliverLayers,
  deliverPicture,
  encodePicture,
  reportHtml,
  reportPdf,
} from '@fennip/files';
import type { StoredFile } from '../store/store.ts';
import type { TakenBackMend } from './takenBack.ts';
import { collect } from './collect.ts';
import { takenBack } from './takenBack.ts';
import { writePyramid } from '../store/pyramid.ts';

/** Asks for a condition report. */
export interface ReportTask {
  readonly task: 'report';
  readonly original: string;
  readonly mostPixels: number;
  readonly shown: ReportedPicture;
  readonly finish: readonly FinishStep[];
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
    }
  | {
      readonly task: 'examine';
      readonly raster: Raster;
      readonly tile: ExamineTile;
      readonly nature: PictureNature;
    }
  | { readonly task: 'examine whole'; readonly raster: Raster }
  | { readonly task: 'score with net'; readonly raster: Raster; readonly specks: readonly Fault[] }
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
      /** Whether the frame is looked for on the sensor: its file alone says where it lies. */
      readonly isSought: boolean;
      readonly fNumber: number | null;
    }
  | {
      /** A part of a run over the faults of a picture that all threads share. */
      readonly task: 'mend';
      readonly picture: LoadedPicture;
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
  | { readonly task: 'grain'; readonly original: string; readonly mostPixels: number }
  | {
      readonly task: 'carry';
      readonly original: string;
      readonly mostPixels: number;
      readonly recipe: Recipe;
      readonly picture: string;
      readonly from: Placement;
      readonly to: Placement;
      /** Mends that the picture has and keeps. */
      readonly own: readonly Mend[];
      /** Ids of the mends to come, one for each of the recipe's. */
      readonly ids: readonly string[];
    }
  | {
      /** A part of a recipe, on samples that all threads share. */
      readonly task: 'render';
      readonly ground: RenderGround;
      readonly part: RenderPart;
    }
  | {
      /** A picture as it was finished and framed. */
      readonly task: 'encode';
      readonly original: string;
      readonly mostPixels: number;
      readonly raster: Raster;
      readonly settings: DeliverySettings;
      readonly onto: string;
    }
  | {
      readonly task: 'layers';
      readonly original: string;
      readonly mostPixels: number;
      readonly recipe: Recipe;
      readonly entries: readonly LedgerEntry[];
      readonly onto: string;
    };

/** Said on the port while a pyramid is written. */
export interface LevelWritten {
  readonly level: number;
  readonly share: number;
}

/** Errors lose their class between threads: a refused picture comes back as this. */
export interface Refused {
  readonly refused: Said;
}

type Outcome =
  | undefined
  | PrintSigns
  | LoadedPicture
  | MeasuredPart
  | StoredFile
  | SpannedCharts
  | FoundPlaces
  | readonly MendProposal[]
  | SeenProposal
  | readonly number[]
  | GrainModel
  | CarriedRecipe
  | Uint8Array
  | TakenBackMend;

async function prepare(task: Extract<ThreadTask, { task: 'prepare' }>): Promise<PrintSigns> {
  const { raster } = await decodePicture(task.original, { pixels: task.mostPixels });
  await writePyramid(task.folder, raster, (level, share) =>
    task.port.postMessage({ level, share } satisfies LevelWritten),
  );
  return printSigns(raster);
}

/** A picture in memory that threads share, and what its values mean in light. */
export interface LoadedPicture {
  readonly raster: Raster;
  readonly transfer?: readonly Transfer[];
}

async function load({ original, mostPixels }: Extract<ThreadTask, { task: 'load' }>): Promise<LoadedPicture> {
  const { raster, header } = await decodePicture(original, { pixels: mostPixels });
  collect();
  return { raster, ...(header.transfer ? { transfer: header.transfer } : {}) };
}

/** What a delivery is made into. */
export type ThreadDelivery =
  | DeliverySettings
  /** In layers, named by the lines of the ledger. */
  | { readonly format: 'ora'; readonly entries: readonly LedgerEntry[] };

function render({ ground, part }: Extract<ThreadTask, { task: 'render' }>): Promise<undefined> {
  renderPart(ground, part);
  // Bands in floating point are much, and the picture is held until then; a patch is not worth the time.
  if (part.kind === 'finish' || part.kind === 'frame') setImmediate(collect);
  return Promise.resolve(undefined);
}

/** Writes a delivered file, and tells what it is. */
async function written(bytes: Buffer, onto: string): Promise<StoredFile> {
  const file = await open(onto, 'w');
  try {
    await file.writeFile(bytes);
    await file.sync();
  } finally {
    await file.close();
  }
  return { sha256: createHash('sha256').update(bytes).digest('hex'), sizeBytes: bytes.length };
}

async function encode(task: Extract<ThreadTask, { task: 'encode' }>): Promise<StoredFile> {
  const header = await readHeader(task.original, { pixels: task.mostPixels });
  return written(await deliverPicture(task.raster, header, task.settings), task.onto);
}

async function layers(task: Extract<ThreadTask, { task: 'layers' }>): Promise<StoredFile> {
  const { raster, header } = await decodePicture(task.original, { pixels: task.mostPixels });
  return written(await deliverLayers(raster, header, task.recipe, task.entries), task.onto);
}

async function report(task: ReportTask): Promise<Uint8Array> {
  const header = await readHeader(task.original, { pixels: task.mostPixels });
  const built = await buildReport(task.shown, header, task.finish, task.entries, task.facts);
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
}: Extract<ThreadTask, { task: 'chart' }>): Promise<SpannedCharts> {
  return chartSpans(
    sensor,
    frames,
    (frame) => pixelsAt(frames[frame].original, mostPixels),
    (share) => port.postMessage(share),
  );
}

/** What a chart says of one frame, and where that lies on the sensor. */
export interface FoundPlaces {
  readonly places: readonly ChartedPlace[];
  readonly placement: Placement;
}

async function placesOf({
  original,
  mostPixels,
  chart: known,
  placement,
  isSought,
  fNumber,
}: Extract<ThreadTask, { task: 'chart faults' }>): Promise<FoundPlaces> {
  const { raster, header } = await decodePicture(original, { pixels: mostPixels });
  const lies = isSought ? locateOnSensor(raster, placement.orientation, known) : placement;
  return {
    places: chartFaults(known, pixelsOf(raster, header.transfer), lies, fNumber),
    placement: lies,
  };
}

function mendPart(task: Extract<ThreadTask, { task: 'mend' }>): Promise<MendProposal[]> {
  const pixels = pixelsOf(task.picture.raster, task.picture.transfer);
  return Promise.resolve(task.faults.map(mendsInTurn(task.surroundings, pixels)));
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
  const { recipe, picture, from, to, own, ids } = task;
  return carryRecipe(recipe, { picture, from, to, own, idFor: (index) => ids[index] }, pixels);
}

function carryOut(task: ThreadTask): Promise<Outcome> {
  switch (task.task) {
    case 'prepare':
      return prepare(task);
    case 'load':
      return load(task);
    case 'examine':
      return Promise.resolve(examineTile(task.tile, pixelsOf(task.raster), task.nature));
    case 'examine whole':
      return Promise.resolve(examineWhole(pixelsOf(task.raster)));
    case 'score with net':
      return Promise.resolve(scoreWithNet(task.specks, pixelsOf(task.raster)));
    case 'chart':
      return chart(task);
    case 'chart faults':
      return placesOf(task);
    case 'mend':
      return mendPart(task);
    case 'propose':
      return propose(task);
    case 'grain':
      return pixelsAt(task.original, task.mostPixels).then(({ shape, window }) =>
        measureGrainModel(window(pictureRect(shape)).raster),
      );
    case 'carry':
      return carry(task);
    case 'render':
      return render(task);
    case 'encode':
      return encode(task);
    case 'layers':
      return layers(task);
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
    if (error instanceof PictureError) return { refused: error.said };
    throw error;
  }
}
