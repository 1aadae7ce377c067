import { execFile } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { promisify } from 'node:util';
import { afterAll, describe, expect, it } from 'vitest';
import { bundleModule, bundleProgram } from './bundleModule.mjs';
import { startTaskThreads } from './startPool.ts';
import type { tasks } from './testing/thread.ts';

const THREAD = new URL('./testing/thread.ts', import.meta.url);
const RUN = fileURLToPath(new URL('../bin/run.mjs', import.meta.url));

describe('threads that carry out tasks', () => {
  const threads = startTaskThreads<typeof tasks>(THREAD, { count: 2 });
  afterAll(() => threads.close());

  it('answer each call with its own outcome, however many there are', async () => {
    const calls = Array.from({ length: 40 }, (_, k) => threads.run('add', { a: k, b: 1000 }));
    expect(await Promise.all(calls)).toEqual(Array.from({ length: 40 }, (_, k) => k + 1000));
    expect(await threads.run('later', { text: 'harbour' })).toBe('HARBOUR');
  });

  it('pass an error on with its message, and stay', async () => {
    await expect(threads.run('fail', { reason: 'no such tile' })).rejects.toThrow('no such tile');
    expect(await threads.run('add', { a: 1, b: 2 })).toBe(3);
  });

  it('write into memory that is shared', async () => {
    const shared = new SharedArrayBuffer(8);
    await threads.run('fill', { shared, value: 7 });
    expect([...new Uint8Array(shared)]).toEqual(Array(8).fill(7));
  });

  it('have outcomes looked at first, where one may stand for an error', async () => {
    const checked = startTaskThreads<typeof tasks>(THREAD, {
      count: 1,
      check(outcome) {
        if (outcome === 13) throw new Error('unlucky');
      },
    });
    await expect(checked.run('add', { a: 6, b: 7 })).rejects.toThrow('unlucky');
    expect(await checked.run('add', { a: 6, b: 6 })).toBe(12);
    await checked.close();
  });
});

describe('a bundle', () => {
  it('is one file, made once, that needs none of our sources', async () => {
    const path = bundleModule(THREAD);
    expect(bundleModule(THREAD)).toBe(path);
    const text = await readFile(path, 'utf8');
    expect(text).not.toMatch(/from ["']\.\.?\//);
    const { default: serve } = (await import(path)) as {
      default: (call: { task: string; input: unknown }) => unknown;
    };
    expect(serve({ task: 'add', input: { a: 2, b: 3 } })).toBe(5);
  });

  it('of a program runs with its arguments, and finds what lies beside its source', async () => {
    const folder = await mkdtemp(join(tmpdir(), 'fennip-run-'));
    await writeFile(join(folder, 'beside.txt'), 'what lies beside');
    await writeFile(
      join(folder, 'program.ts'),
      `import { readFileSync } from 'node:fs';
       const words: string = readFileSync(new URL('./beside.txt', import.meta.url), 'utf8');
       console.log(JSON.stringify([words, ...process.argv.slice(2)]));`,
    );
    const { stdout } = await promisify(execFile)(process.execPath, [
      RUN,
      join(folder, 'program.ts'),
      '--worker',
      'x y',
    ]);
    await rm(folder, { recursive: true });
    expect(JSON.parse(stdout)).toEqual(['what lies beside', '--worker', 'x y']);
  });

  it('is made anew when something that it was made from has changed, and only then', async () => {
    const folder = await mkdtemp(join(tmpdir(), 'fennip-bundle-'));
    const [program, beside] = [join(folder, 'program.ts'), join(folder, 'beside.ts')];
    await writeFile(program, `import { word } from './beside.ts'; console.log(word);`);
    const saying = async (word: string): Promise<string> => {
      await writeFile(beside, `export const word: string = '${word}';`);
      // What is bundled in the moment in which it changes is not kept.
      await new Promise((resolve) => setTimeout(resolve, 30));
      return bundleProgram(pathToFileURL(program));
    };
    const first = await saying('one');
    expect(await bundleProgram(pathToFileURL(program))).toBe(first);
    const second = await saying('two');
    expect(second).not.toBe(first);
    expect(await readFile(second, 'utf8')).toContain('"two"');
    // As after a checkout: the same words at another time.
    expect(await saying('one')).toBe(first);
    await rm(folder, { recursive: true });
    await expect(bundleProgram(pathToFileURL(program))).rejects.toThrow();
  });
});
