import { createHash } from 'node:crypto';
import { readFile, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { Delivery, EditAnswer, Job, Picture, PictureSheet } from '@fennip/contract';
import type { Application } from '../e2e/application.ts';

/** A picture that the server said it has, with all that it said yes to. */
interface Acknowledged {
  readonly id: string;
  readonly sha256: string;
  readonly bytes: number;
  /** Ids of the mends that were put on it, in order. */
  readonly mends: string[];
  readonly deliveries: string[];
}

/**
 * Somebody who works without pause, and remembers what the server said yes to. What it did not answer may have been done
 * or not.
 */
export interface Restorer {
  /** Works until it is told to stop; never throws. */
  work(): Promise<void>;
  stop(): void;
  readonly acknowledged: ReadonlyMap<string, Acknowledged>;
  /** How many edits the server said yes to, also on pictures that are gone. */
  readonly edits: number;
  /** What the server has lost, left half or left standing, each in a few words; empty where all is well. */
  losses(): Promise<string[]>;
}

const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

const mendAt = (id: string, k: number) => ({
  ...{ id, method: 'recover', margin: 3, edge: 1, share: 1, on: true, source: null },
  target: { shape: 'disc', x: 20 + (k % 40), y: 20 + (k % 30), r: 4 },
  veil: {
    ...{ kind: 'disc', x: 20 + (k % 40), y: 20 + (k % 30), r: 4 },
    ...{ softness: 0.4, stretch: 1, angle: 0, depth: 0.2, light: null },
  },
});

/**
 * @param files that are sent, one after the other, again and again
 * @param chance from 0 to 1
 */
export function createRestorer(
  application: Application,
  files: readonly Uint8Array[],
  chance: () => number,
): Restorer {
  const acknowledged = new Map<string, Acknowledged>();
  let jobId: string | null = null;
  let isStopped = false;
  let sent = 0;
  let edits = 0;

  async function ask<T>(path: string, init?: RequestInit): Promise<T> {
    const response = await fetch(`${application.address}/api${path}`, init);
    if (!response.ok) throw new Error(`${path}: ${response.status}`);
    return response.status === 204 ? (undefined as T) : ((await response.json()) as T);
  }
  const post = <T>(path: string, body: unknown): Promise<T> =>
    ask<T>(path, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    });

  async function send(job: string): Promise<void> {
    const file = files[sent++ % files.length];
    const picture = await ask<Picture>(`/jobs/${job}/pictures?name=${sent}.png`, {
      method: 'POST',
      headers: { 'content-type': 'application/octet-stream' },
      body: Buffer.from(file),
    });
    const sha256 = createHash('sha256').update(file).digest('hex');
    acknowledged.set(picture.id, {
      ...{ id: picture.id, sha256, bytes: file.length, mends: [], deliveries: [] },
    });
  }

  async function edit(of: Acknowledged): Promise<void> {
    const { revision } = await ask<PictureSheet>(`/pictures/${of.id}`);
    const id = `m${of.mends.length}-${Math.floor(chance() * 1e9)}`;
    const step = { op: 'put', mend: mendAt(id, of.mends.length), at: 1e6 };
    await post<EditAnswer>(`/pictures/${of.id}/edits`, {
      revision,
      edit: { words: 'Mended', steps: [step] },
    });
    of.mends.push(id);
    edits++;
  }

  async function deliver(of: Acknowledged): Promise<void> {
    const { id } = await post<Delivery>(`/pictures/${of.id}/deliveries`, {
      ...{ format: 'png', depth: 8, quality: 90 },
    });
    of.deliveries.push(id);
  }

  async function remove(of: Acknowledged): Promise<void> {
    // Whatever is answered: from now on it may be gone.
    acknowledged.delete(of.id);
    await ask(`/pictures/${of.id}`, { method: 'DELETE' });
    if (chance() < 0.5) await ask('/bin', { method: 'DELETE' });
  }

  async function step(): Promise<void> {
    jobId ??= (await post<Job>('/jobs', { name: 'Under fire' })).id;
    const all = [...acknowledged.values()];
    const one = all[Math.floor(chance() * all.length)];
    const what = chance();
    if (!one || what < 0.15) await send(jobId);
    else if (what < 0.7) await edit(one);
    else if (what < 0.85) await deliver(one);
    else if (what < 0.9) await remove(one);
    else await post(`/pictures/${one.id}/examine`, { sensitivity: 0.7, polarity: 'both' });
  }

  /** What is wrong with one picture. */
  async function lossesOf(of: Acknowledged): Promise<string[]> {
    const found: string[] = [];
    const sheet = await ask<PictureSheet>(`/pictures/${of.id}`).catch(() => null);
    if (!sheet) return [`picture ${of.id} is gone`];
    const path = join(application.storeFolder, 'originals', of.sha256);
    const bytes = await readFile(path).catch(() => Buffer.alloc(0));
    if (createHash('sha256').update(bytes).digest('hex') !== of.sha256)
      found.push(`the original of ${of.id} has ${bytes.length} of ${of.bytes} bytes`);
    const there = new Set(sheet.recipe.mends.map(({ id }) => id));
    for (const id of of.mends) if (!there.has(id)) found.push(`mend ${id} of ${of.id} is gone`);
    if (sheet.picture.state !== 'ready') found.push(`${of.id} is ${sheet.picture.state}`);
    const deliveries = await ask<Delivery[]>(`/pictures/${of.id}/deliveries`);
    for (const id of of.deliveries) {
      const delivery = deliveries.find((one) => one.id === id);
      if (delivery?.state !== 'done') found.push(`delivery ${id} is ${delivery?.state ?? 'gone'}`);
      else if (!(await isServed(id, delivery.sizeBytes ?? -1))) found.push(`delivery ${id} is half`);
    }
    return found;
  }

  async function isServed(id: string, sizeBytes: number): Promise<boolean> {
    const response = await fetch(`${application.address}/api/deliveries/${id}/file`);
    return response.ok && (await response.arrayBuffer()).byteLength === sizeBytes;
  }

  return {
    acknowledged,
    get edits() {
      return edits;
    },
    async work() {
      while (!isStopped) {
        await step().catch(() => pause(100));
        await pause(5);
      }
    },
    stop: () => {
      isStopped = true;
    },
    async losses() {
      // What is under way may take its time.
      for (let k = 0; ; k++) {
        const found = (await Promise.all([...acknowledged.values()].map(lossesOf))).flat();
        if (found.length === 0 || k === 60) return found;
        await pause(1000);
      }
    },
  };
}

/** Bytes that a process holds in memory. */
export async function residentBytes(pid: number): Promise<number> {
  return Number((await readFile(`/proc/${pid}/statm`, 'utf8')).split(' ')[1]) * 4096;
}

export const fileSize = async (path: string): Promise<number> => (await stat(path)).size;
