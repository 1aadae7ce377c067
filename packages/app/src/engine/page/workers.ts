import type { Remote } from 'comlink';
import { transfer, wrap } from 'comlink';
import type { MendWorkerApi } from '../mend/mendWorker.ts';
import type { TiledPicture } from '../paint/tileStore.ts';
import type { TableWorkerApi } from '../table/tableWorker.ts';

/** One worker paints, at least two work mends out: what is looked at never waits for what is being made. */
const FEWEST_MENDERS = 2;

/** A call on a mender that is free, or will be. */
interface Waiting {
  readonly start: (mender: Remote<MendWorkerApi>) => Promise<void>;
  /** True if it is looked at only once what was asked for is done. */
  readonly canWait: boolean;
}

/** Mend workers start once the picture is seen, and where nothing says that it is, after so many milliseconds. */
const MENDERS_AT_LATEST_MS = 3000;
/** From the start of the menders to having the code of mends compiled, in milliseconds: the page is built up meanwhile. */
const WARM_AFTER_MS = 600;

let table: Remote<TableWorkerApi> | null = null;
let menders: readonly Remote<MendWorkerApi>[] = [];
/** The picture that is open in the worker that paints. */
let open: TiledPicture | null = null;
const free: Remote<MendWorkerApi>[] = [];
const waiting: Waiting[] = [];
const deferrable: Waiting[] = [];
/** How many menders work on what can wait. */
let deferred = 0;

/** The worker that holds the picture with its mends and paints it. */
export function engine(): Remote<TableWorkerApi> {
  if (table) return table;
  const started = wrap<TableWorkerApi>(
    new Worker(new URL('../table/tableWorker.ts', import.meta.url), { type: 'module', name: 'table' }),
  );
  setTimeout(startMendWorkers, MENDERS_AT_LATEST_MS);
  table = started;
  return started;
}

/** Starts the workers that make mends, unless they have been: as soon as what is looked at is there. */
export function startMendWorkers(): void {
  if (menders.length > 0) return;
  menders = Array.from({ length: Math.max(FEWEST_MENDERS, navigator.hardwareConcurrency - 1) }, (_, i) =>
    wrap<MendWorkerApi>(
      new Worker(new URL('../mend/mendWorker.ts', import.meta.url), {
        type: 'module',
        name: `mend ${i + 1}`,
      }),
    ),
  );
  for (const mender of menders) {
    const { port1, port2 } = new MessageChannel();
    void engine().takeHelper(transfer(port1, [port1]));
    void mender.help(transfer(port2, [port2]));
    if (open) openInMender(mender, open);
  }
  free.push(...menders);
  assignTasks();
  setTimeout(() => void warmUpAll(), WARM_AFTER_MS);
}

/** One after the other: the page's own thread needs a core to itself meanwhile. */
async function warmUpAll(): Promise<void> {
  for (const worker of [engine(), ...menders]) await worker.warmUp();
}

/** What is asked of the mender from now on is asked about this picture. */
function openInMender(mender: Remote<MendWorkerApi>, picture: TiledPicture): void {
  const { port1, port2 } = new MessageChannel();
  void engine().lendTiles(transfer(port1, [port1]));
  void mender.open(picture, transfer(port2, [port2]));
}

/**
 * Opens a picture in all workers: what is asked of any of them from now on is asked about it.
 *
 * @param isReady all its levels are there
 */
export function openPicture(picture: TiledPicture, isReady: boolean): void {
  open = picture;
  void engine().open(picture, isReady);
  for (const mender of menders) openInMender(mender, picture);
}

/**
 * What a free mender does next. One is always left for what is asked for: a fault that is mended must not wait until six
 * sources are drawn, nor the page's own thread for two menders at once that nobody waits for.
 */
function nextTask(): Waiting | undefined {
  const isOneLeft = deferred < Math.max(1, menders.length - 1);
  return waiting.shift() ?? (isOneLeft ? deferrable.shift() : undefined);
}

/** Gives free menders what waits. */
function assignTasks(): void {
  for (let mender = free.shift(); mender; mender = free.shift()) {
    const next = nextTask();
    if (!next) {
      free.unshift(mender);
      return;
    }
    void carryOut(mender, next);
  }
}

async function carryOut(mender: Remote<MendWorkerApi>, task: Waiting): Promise<void> {
  if (task.canWait) deferred++;
  await task.start(mender);
  if (task.canWait) deferred--;
  free.push(mender);
  assignTasks();
}

function take<T>(task: (mender: Remote<MendWorkerApi>) => Promise<T>, onto: Waiting[]): Promise<T> {
  startMendWorkers();
  return new Promise((resolve, reject) => {
    onto.push({ start: (mender) => task(mender).then(resolve, reject), canWait: onto === deferrable });
    assignTasks();
  });
}

/** Has a free mender do something that is waited for; what cannot start yet waits, first come first served. */
export const inMendWorker = <T>(task: (mender: Remote<MendWorkerApi>) => Promise<T>): Promise<T> =>
  take(task, waiting);

/** Has a mender do what only goes with what was asked for, and must not hold that up. */
export const laterInMendWorker = <T>(task: (mender: Remote<MendWorkerApi>) => Promise<T>): Promise<T> =>
  take(task, deferrable);
