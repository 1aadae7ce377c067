import type { Remote } from 'comlink';
import { transfer, wrap } from 'comlink';
import type { HandApi } from './hand.ts';
import type { TiledPicture } from './tileStore.ts';
import type { TableApi } from './worker.ts';

/** One worker paints, at least two work mends out: what is looked at never waits for what is being made. */
const FEWEST_HANDS = 2;

interface Workers {
  readonly table: Remote<TableApi>;
  readonly hands: readonly Remote<HandApi>[];
}

/** A call on a hand that is free, or will be. */
interface Waiting {
  readonly start: (hand: Remote<HandApi>) => Promise<void>;
}

/** Once the first picture is likely to be seen, in milliseconds. */
const WARM_AFTER_MS = 1500;

let workers: Workers | null = null;
const free: Remote<HandApi>[] = [];
const waiting: Waiting[] = [];

function started(): Workers {
  if (workers) return workers;
  const table = wrap<TableApi>(
    new Worker(new URL('./worker.ts', import.meta.url), { type: 'module', name: 'table' }),
  );
  const hands = Array.from({ length: Math.max(FEWEST_HANDS, navigator.hardwareConcurrency - 1) }, (_, i) =>
    wrap<HandApi>(
      new Worker(new URL('./hand.ts', import.meta.url), { type: 'module', name: `hand ${i + 1}` }),
    ),
  );
  free.push(...hands);
  for (const hand of hands) {
    const { port1, port2 } = new MessageChannel();
    void table.takeHelper(transfer(port1, [port1]));
    void hand.help(transfer(port2, [port2]));
  }
  workers = { table, hands };
  // Later: the first view of the picture comes first.
  setTimeout(() => void Promise.all([table.warmUp(), ...hands.map((hand) => hand.warmUp())]), WARM_AFTER_MS);
  return workers;
}

/** The worker that holds the picture with its mends and paints it. */
export const engine = (): Remote<TableApi> => started().table;

/** Opens a picture in all workers. */
export async function openPicture(picture: TiledPicture): Promise<void> {
  const { table, hands } = started();
  await table.open(picture);
  await Promise.all(
    hands.map(async (hand) => {
      const { port1, port2 } = new MessageChannel();
      await table.lendTiles(transfer(port1, [port1]));
      await hand.open(picture, transfer(port2, [port2]));
    }),
  );
}

async function work(hand: Remote<HandApi>, next: Waiting): Promise<void> {
  await next.start(hand);
  const after = waiting.shift();
  if (after) void work(hand, after);
  else free.push(hand);
}

/** Has a free hand do something; what cannot start yet waits, first come first served. */
export function byHand<T>(task: (hand: Remote<HandApi>) => Promise<T>): Promise<T> {
  started();
  return new Promise((resolve, reject) => {
    const next: Waiting = { start: (hand) => task(hand).then(resolve, reject) };
    const hand = free.shift();
    if (hand) void work(hand, next);
    else waiting.push(next);
  });
}
