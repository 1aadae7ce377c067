import { readFileSync } from 'node:fs';
import { emptyRecipe } from '@fennip/core';
import type { FinishStep } from '@fennip/core';
import { DEFAULT_LIMITS, decodePicture, deliverRecipe, encodePicture, readHeader } from '@fennip/files';

/** One delivery with a finish, as the server's threads make it; prints what it took as JSON. */
const [path] = process.argv.slice(2);
const peakOf = (): number =>
  1024 * Number(/^VmHWM:\s+(\d+)/m.exec(readFileSync('/proc/self/status', 'utf8'))?.[1] ?? 0);

const FINISH: readonly FinishStep[] = [
  { id: 'l', on: true, share: 1, method: 'levels', tones: [{ black: 0.02, white: 0.97, gamma: 1.1 }] },
  { id: 's', on: true, share: 1, method: 'sharpen', way: 'unsharp', radius: 1, amount: 0.8, threshold: 0.01 },
  { id: 't', on: true, share: 1, method: 'straighten', angle: 0.02 },
];

const idle = peakOf();
const start = performance.now();
const sides = await readHeader(path);
const raw = sides.width * sides.height * sides.channels * (sides.depth / 8);
await deliverRecipe(
  path,
  { ...emptyRecipe(sides), finish: FINISH },
  {
    ...{ format: 'jpeg', quality: 92, depth: 8, size: { kind: 'full' }, profile: 'own', intent: 'relative' },
    ...{ isDataKept: true, note: null },
  },
  DEFAULT_LIMITS,
  () => undefined,
);
const own = performance.now() - start;
const peak = peakOf();
const again = performance.now();
const bare = await decodePicture(path);
await encodePicture(bare.raster, bare.header, { format: 'jpeg', quality: 92, depth: 8 });
const peer = performance.now() - again;
process.stdout.write(JSON.stringify({ own, peer, peak, idle, raw }));
