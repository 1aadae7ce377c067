import type { CarriedRecipe } from '@fennip/core/carry';
import type { ChartFrame, DustChart, SensorShape, SpannedCharts } from '@fennip/core/chart';
import type { ExamineTile, MeasuredPart, PictureNature } from '@fennip/core/examine';
import type { Fault } from '@fennip/core/fault';
import { isFramingStep } from '@fennip/core/finish';
import type { GrainModel } from '@fennip/core/grain';
import type { LedgerEntry } from '@fennip/core/ledger';
import type { FaultToMend, MendRun, MendSurroundings } from '@fennip/core/mend';
import { runMends } from '@fennip/core/mend';
import type { Raster } from '@fennip/core/raster';
import { pixelsOf, sharedCopy } from '@fennip/core/raster';
import type { PartRenderers, Recipe } from '@fennip/core/recipe';
import { frameInParts, renderInParts } from '@fennip/core/recipe';
import type { DeliverySettings } from '@fennip/files';
import { PictureError } from '@fennip/files';
import { startTaskThreads } from '@fennip/threads';
import { availableParallelism } from 'node:os';
import type { MessagePort } from 'node:worker_threads';
import { MessageChannel } from 'node:worker_threads';
import type { StoredFile } from '../store/hashFile.ts';
import { NoRoomError } from '../errors/noRoom.ts';
import { collect } from './collect.ts';
import type { TakenBackMend } from './takenBack.ts';
import type { tasks } from './tasks.ts';
import type { CarryInput } from './tasks/carry.ts';
import type { ChartedFrame, FoundPlaces } from './tasks/chartedPlaces.ts';
import type { LoadedPicture } from './tasks/original.ts';
import type { SeenProposal } from './tasks/propose.ts';
import type { ReportInput } from './tasks/report.ts';
import type { TakeBackInput } from './tasks/takeBack.ts';
import type { NoRoom, Refused } from './thread.ts';

/** What a delivery is made into. */
export type ThreadDelivery =
  | DeliverySettings
  /** In layers, named by the lines of the ledger. */
  | { readonly format: 'ora'; readonly entries: readonly LedgerEntry[] };

/** Whoever waits for a delivery. */
export interface DeliveryWatch {
  readonly progress: (share: number) => void;
  /** Ends it wherever it is. */
  readonly signal: AbortSignal;
}

/** The heavy work, each call in a thread. A picture that cannot be used throws {@link PictureError}. */
export interface Threads {
  /** @param recipe laid down on the picture; null loads it as it came in */
  load(original: string, recipe: Recipe | null): Promise<Raster>;
  examine(raster: Raster, tile: ExamineTile, nature: PictureNature): Promise<MeasuredPart>;
  /** What is looked for on the picture as a whole. */
  examineWhole(raster: Raster): Promise<MeasuredPart>;
  /** What a net makes of all findings of a picture; as they are where there is none. */
  joinNet(raster: Raster, findings: readonly Fault[], nature: PictureNature): Promise<Fault[]>;
  /** What a closer look at each of some specks tells. */
  scoreWithNet(raster: Raster, specks: readonly Fault[]): Promise<number[]>;
  /** Makes the dust charts of a sensor from frames of it, in the order they were taken. */
  chart(
    sensor: SensorShape,
    frames: readonly (ChartFrame & { readonly original: string })[],
    progress: (share: number) => void,
  ): Promise<SpannedCharts>;
  /** What a chart says of one frame. @param isSought whether the frame is looked for on the sensor first */
  chartFaults(
    original: string,
    chart: DustChart,
    at: Pick<ChartedFrame, 'placement' | 'isSought'>,
    fNumber: number | null,
  ): Promise<FoundPlaces>;
  /** A mend for each fault that no guard covers, in their order, with its own judgement; shared out over the threads. */
  mend(original: string, faults: readonly FaultToMend[], surroundings: MendSurroundings): Promise<MendRun>;
  /** A mend for one fault, and how its place looks before and with it. */
  propose(original: string, fault: FaultToMend, surroundings: MendSurroundings): Promise<SeenProposal>;
  /** The grain of a picture, measured on its calmest parts. */
  grain(original: string): Promise<GrainModel>;
  /** Carries a recipe over to another picture. */
  carry(
    original: string,
    recipe: Recipe,
    between: Omit<CarryInput, 'original' | 'mostPixels' | 'recipe'>,
  ): Promise<CarriedRecipe>;
  deliver(
    original: string,
    recipe: Recipe,
    settings: ThreadDelivery,
    onto: string,
    watch: DeliveryWatch,
  ): Promise<StoredFile>;
  /** A condition report as a file. */
  report(recipe: Recipe, report: Omit<ReportInput, 'mostPixels' | 'shown' | 'finish'>): Promise<Uint8Array>;
  /** What changed in a picture that comes back, as a mend. @throws PictureError when it does not fit */
  takeBack(task: Omit<TakeBackInput, 'mostPixels'>): Promise<TakenBackMend>;
  close(): Promise<void>;
}

const isRefused = (outcome: unknown): outcome is Refused =>
  typeof outcome === 'object' && outcome !== null && 'refused' in outcome;
const isNoRoom = (outcome: unknown): outcome is NoRoom =>
  typeof outcome === 'object' && outcome !== null && 'noRoom' in outcome;

const copyOf = (picture: LoadedPicture): LoadedPicture => ({
  ...picture,
  raster: sharedCopy(picture.raster),
});

export function startThreads(mostPixels: number): Threads {
  const { run, close } = startTaskThreads<typeof tasks>(new URL('./thread.ts', import.meta.url), {
    check(outcome) {
      if (isRefused(outcome)) throw new PictureError('broken', outcome.refused);
      if (isNoRoom(outcome)) throw new NoRoomError(null, null);
    },
  });

  /** Runs a task that speaks while it works. */
  async function runSpeaking<T, M>(
    task: (port: MessagePort) => Promise<T>,
    onMessage: (message: M) => void,
  ): Promise<T> {
    const { port1, port2 } = new MessageChannel();
    port1.on('message', onMessage);
    try {
      return await task(port2);
    } finally {
      port1.close();
    }
  }

  const renderersUntil = (signal?: AbortSignal): PartRenderers => ({
    count: availableParallelism(),
    render: (ground, part) => run('render', { ground, part }, [], signal),
  });
  const renderers = renderersUntil();

  const load = (original: string): Promise<LoadedPicture> => run('load', { original, mostPixels });

  /** Lays a recipe down on a picture, in place. */
  const render = (
    { raster, transfer }: LoadedPicture,
    recipe: Recipe,
    done?: (count: number) => void,
    by: PartRenderers = renderers,
  ): Promise<void> =>
    renderInParts(raster, recipe, by, {
      ...(transfer ? { transfer } : {}),
      ...(done ? { done } : {}),
    });

  /** A picture with a recipe laid down on it, upright. */
  async function loaded(
    original: string,
    recipe: Recipe | null,
    done?: (count: number) => void,
    by: PartRenderers = renderers,
  ): Promise<Raster> {
    const picture = await load(original);
    if (recipe) await render(picture, recipe, done, by);
    return picture.raster;
  }

  /**
   * A picture with a recipe laid down on it, as it is framed. In a function of its own: what waits for something keeps
   * all that it ever named, and the picture as it was before it was framed is as large as the one that is wanted.
   */
  async function framed(
    original: string,
    recipe: Recipe,
    done: (count: number) => void,
    by: PartRenderers,
  ): Promise<Raster> {
    return frameInParts(await loaded(original, recipe, done, by), recipe.finish ?? [], by);
  }

  /** A mended picture as it is finished and framed; it stays as it is itself. */
  async function finishedOf(mended: LoadedPicture, recipe: Recipe): Promise<Raster> {
    const { finish = [] } = recipe;
    // A finish that only frames changes no value: what is framed is read from the mended picture itself.
    const toned = finish.every(isFramingStep) ? mended : copyOf(mended);
    if (toned !== mended) await render(toned, { ...recipe, mends: [] });
    return frameInParts(toned.raster, finish, renderers);
  }

  return {
    load: (original, recipe) => loaded(original, recipe),
    examine: (raster, tile, nature) => run('examineTile', { raster, tile, nature }),
    examineWhole: (raster) => run('examineWhole', { raster }),
    joinNet: (raster, findings, nature) => run('joinNet', { raster, findings, nature }),
    scoreWithNet: (raster, specks) => run('scoreWithNet', { raster, specks }),
    chart: (sensor, frames, progress) =>
      runSpeaking((port) => run('makeCharts', { sensor, frames, mostPixels, port }, [port]), progress),
    chartFaults: (original, chart, at, fNumber) =>
      run('chartedPlaces', { original, mostPixels, chart, ...at, fNumber }),
    mend: async (original, faults, surroundings) => {
      const picture = await load(original);
      const { shape } = pixelsOf(picture.raster, picture.transfer);
      return runMends(faults, surroundings, shape, (part, around) =>
        run('mendPart', { picture, faults: part, surroundings: around }),
      );
    },
    propose: (original, fault, surroundings) => run('propose', { original, mostPixels, fault, surroundings }),
    grain: (original) => run('measureGrain', { original, mostPixels }),
    carry: (original, recipe, between) => run('carry', { original, mostPixels, recipe, ...between }),
    deliver: async (original, recipe, settings, onto, { progress, signal }) => {
      if (settings.format === 'ora') {
        const { entries } = settings;
        return run('encodeLayers', { original, mostPixels, recipe, entries, onto }, [], signal);
      }
      const tell = (done: number): void => progress(0.2 + (0.5 * done) / recipe.mends.length);
      const raster = await framed(original, recipe, tell, renderersUntil(signal));
      // What was framed is let go before the file takes its place.
      collect();
      return run('encode', { original, mostPixels, raster, settings, onto }, [], signal);
    },
    report: async (recipe, report) => {
      const { finish = [], ...mends } = recipe;
      const picture = await load(report.original);
      const mended = copyOf(picture);
      await render(mended, mends);
      const finished = await finishedOf(mended, recipe);
      // What was framed is let go before the report takes its place.
      collect();
      const shown = { original: picture.raster, mended: mended.raster, finished };
      return run('report', { mostPixels, shown, finish, ...report });
    },
    takeBack: (task) => run('takeBack', { mostPixels, ...task }),
    close,
  };
}
