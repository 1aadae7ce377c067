import type { Remote } from 'comlink';
import { transfer, wrap } from 'comlink';
import type { MendWorkerApi } from '../mend/mendWorker.ts';
import type { TiledPicture } from '../paint/tileStore.ts';
import type { TableWorkerApi } from '../table/tableWorker.ts';

/** One worker paints, at least two work mends out: what is looked at never waits for what is being made. */
const FEWEST_HANDS = 2;

/** A call on a hand that is free, or will be. */
interface Waiting {
  readonly start: (hand: Remote<MendWorkerApi>) => Promise<void>;
  /** True if it is looked at only once what was asked for is done. */
  readonly canWait: boolean;
}

/** Hands start once the picture is seen, and where nothing says that it is, after so many milliseconds. */
const HANDS_AT_LATEST_MS = 3000;
/** From the start of the hands to having the code of mends compiled, in milliseconds: the page is built up meanwhile. */
const WARM_AFTER_MS = 600;

let table: Remote<TableWorkerApi> | null = null;
let hands: readonly Remote<MendWorkerApi>[] = [];
/** The picture that is open in the worker that paints. */
let open: TiledPicture | null = null;
const free: Remote<MendWorkerApi>[] = [];
const waiting: Waiting[] = [];
const waitingLonger: Waiting[] = [];
/** How many hands are at what can wait. */
let aside = 0;

/** The worker that holds the picture with its mends and paints it. */
export function engine(): Remote<TableWorkerApi> {
  if (table) return table;
  const started = wrap<TableWorkerApi>(
    new Worker(new URL('../table/tableWorker.ts', import.meta.url), { type: 'module', name: 'table' }),
  );
  setTimeout(startHands, HANDS_AT_LATEST_MS);
  table = started;
  return started;
}

/** Starts the workers that make mends, unless they have been: as soon as what is looked at is there. */
export function startHands(): void {
  if (hands.length > 0) return;
  hands = Array.from({ length: Math.max(FEWEST_HANDS, navigator.hardwareConcurrency - 1) }, (_, i) =>
    wrap<MendWorkerApi>(
      new Worker(new URL('../mend/mendWorker.ts', import.meta.url), {
        type: 'module',
        name: `hand ${i + 1}`,
      }),
    ),
  );
  for (const hand of hands) {
    const { port1, port2 } = new MessageChannel();
    void engine().takeHelper(transfer(port1, [port1]));
    void hand.help(transfer(port2, [port2]));
    if (open) openIn(hand, open);
  }
  free.push(...hands);
  employ();
  setTimeout(() => void warmUpAll(), WARM_AFTER_MS);
}

/** One after the other: the page's own thread needs a core to itself meanwhile. */
async function warmUpAll(): Promise<void> {
  for (const worker of [engine(), ...hands]) await worker.warmUp();
}

/** What is asked of the hand from now on is asked about this picture. */
function openIn(hand: Remote<MendWorkerApi>, picture: TiledPicture): void {
  const { port1, port2 } = new MessageChannel();
  void engine().lendTiles(transfer(port1, [port1]));
  void hand.open(picture, transfer(port2, [port2]));
}

/**
 * Opens a picture in all workers: what is asked of any of them from now on is asked about it.
 *
 * @param isReady all its levels are there
 */
export function openPicture(picture: TiledPicture, isReady: boolean): void {
  open = picture;
  void engine().open(picture, isReady);
  for (const hand of hands) openIn(hand, picture);
}

/**
 * What a free hand does next. One is always left for what is asked for: a fault that is mended must not wait until six
 * sources are drawn, nor the page's own thread for two hands at once that nobody waits for.
 */
function nextTask(): Waiting | undefined {
  const isOneLeft = aside < Math.max(1, hands.length - 1);
  return waiting.shift() ?? (isOneLeft ? waitingLonger.shift() : undefined);
}

/** Gives free hands what waits. */
function employ(): void {
  for (let hand = free.shift(); hand; hand = free.shift()) {
    const next = nextTask();
    if (!next) {
      free.unshift(hand);
      return;
    }
    void work(hand, next);
  }
}

async function work(hand: Remote<MendWorkerApi>, task: Waiting): Promise<void> {
  if (task.canWait) aside++;
  await task.start(hand);
  if (task.canWait) aside--;
  free.push(hand);
  employ();
}

function take<T>(task: (hand: Remote<MendWorkerApi>) => Promise<T>, onto: Waiting[]): Promise<T> {
  startHands();
  return new Promise((resolve, reject) => {
    onto.push({ start: (hand) => task(hand).then(resolve, reject), canWait: onto === waitingLonger });
    employ();
  });
}

/** Has a free hand do something that is waited for; what cannot start yet waits, first come first served. */
export const inMendWorker = <T>(task: (hand: Remote<MendWorkerApi>) => Promise<T>): Promise<T> =>
  take(task, waiting);

/** Has a hand do what only goes with what was asked for, and must not hold that up. */
export const laterInMendWorker = <T>(task: (hand: Remote<MendWorkerApi>) => Promise<T>): Promise<T> =>
  take(task, waitingLonger);
