import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { mkdtemp, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { emptyRecipe } from '@fennip/core/recipe';
import type { FinishStep } from '@fennip/core/finish';
import type { DeliverySettings } from '@fennip/files';
import { DEFAULT_LIMITS, decodePicture, encodePicture, readHeader } from '@fennip/files';
import { startThreads } from '@fennip/server';
import sharp from 'sharp';

/** One delivery with a finish, as the server makes it; prints what it took as JSON. */
const [path] = process.argv.slice(2);
const peakOf = (): number =>
  1024 * Number(/^VmHWM:\s+(\d+)/m.exec(readFileSync('/proc/self/status', 'utf8'))?.[1] ?? 0);

const FINISH: readonly FinishStep[] = [
  { id: 'l', on: true, share: 1, method: 'levels', tones: [{ black: 0.02, white: 0.97, gamma: 1.1 }] },
  { id: 's', on: true, share: 1, method: 'sharpen', way: 'unsharp', radius: 1, amount: 0.8, threshold: 0.01 },
  { id: 't', on: true, share: 1, method: 'straighten', angle: 0.02 },
];
const SETTINGS: DeliverySettings = {
  ...{ format: 'jpeg', quality: 92, depth: 8, size: { kind: 'full' }, profile: 'own', intent: 'relative' },
  ...{ isDataKept: true, note: null },
};

const folder = await mkdtemp(join(tmpdir(), 'fennip-'));
const threads = startThreads(DEFAULT_LIMITS.pixels);
const deliver = async (from: string): Promise<void> => {
  const recipe = { ...emptyRecipe(await readHeader(from)), finish: FINISH };
  const file = join(folder, randomUUID());
  const { signal } = new AbortController();
  await threads.deliver(from, recipe, SETTINGS, file, { progress: () => undefined, signal });
  if ((await stat(file)).size === 0) throw new Error('Nothing was delivered.');
};
// The threads stand, as those of a server do.
const small = join(folder, 'small.png');
const grey = { width: 256, height: 256, channels: 3, background: '#808080' } as const;
await sharp({ create: grey }).png().toFile(small);
await Promise.all([deliver(small), deliver(small)]);
const idle = peakOf();
const start = performance.now();
await deliver(path);
const own = performance.now() - start;
const peak = peakOf();
const sides = await readHeader(path);
const raw = sides.width * sides.height * sides.channels * (sides.depth / 8);
const again = performance.now();
const bare = await decodePicture(path);
await encodePicture(bare.raster, bare.header, { format: 'jpeg', quality: 92, depth: 8 });
const peer = performance.now() - again;
await threads.close();
await rm(folder, { recursive: true });
process.stdout.write(JSON.stringify({ own, peer, peak, idle, raw }));
