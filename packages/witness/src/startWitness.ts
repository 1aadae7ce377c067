import type { ChildProcess } from 'node:child_process';
import { fork } from 'node:child_process';
import { existsSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import type { Witness } from '@fennip/core/witness';
import { WITNESS_MAPS } from '@fennip/core/witness';

/** The package is found by its name: in a thread this module is part of a bundle that lies elsewhere. */
const PACKAGE = dirname(createRequire(import.meta.url).resolve('@fennip/witness/package.json'));

/** The trained net, in the open format ONNX (opset 13). */
export const WITNESS_FILE = join(PACKAGE, 'net/witness.onnx');
/** What runs it, in a process of its own; it says there why. */
const PROGRAM = join(PACKAGE, 'bin/askNet.mjs');

/** Why there is no net to ask. */
export type NoWitness = 'no net' | 'no library';

/** A net that is ready to be asked, or why there is none. */
export type StartedWitness =
  { readonly witness: Witness } | { readonly missing: NoWitness; readonly cause?: unknown };

/** What the process says: that it is ready, an answer, or what went wrong. */
interface Said {
  readonly ready?: true;
  readonly id?: number;
  readonly dims?: readonly number[];
  readonly data?: Float32Array;
  readonly cause?: string;
}

/** Someone who waits for an answer. */
interface Waiting {
  readonly resolve: (data: Float32Array) => void;
  readonly reject: (cause: Error) => void;
}

/** Asks the net in its process; it is kept from ending only while an answer is waited for. */
function askedIn(child: ChildProcess): Witness {
  const waiting = new Map<number, Waiting>();
  let last = 0;
  const settle = (id: number, by: (one: Waiting) => void): void => {
    const one = waiting.get(id);
    waiting.delete(id);
    if (waiting.size === 0) child.channel?.unref();
    if (one) by(one);
  };
  child.on('message', ({ id = 0, dims, data, cause }: Said) => {
    settle(id, ({ resolve, reject }) => {
      if (data && dims?.[1] === WITNESS_MAPS.length) resolve(data);
      else reject(new Error(cause ?? `the net gives ${dims?.[1]} maps`));
    });
  });
  child.on('exit', () => {
    for (const id of waiting.keys())
      settle(id, ({ reject }) => {
        reject(new Error('the process of the net has ended'));
      });
  });
  return (planes, width, height) =>
    new Promise((resolve, reject) => {
      const id = ++last;
      waiting.set(id, { resolve, reject });
      child.channel?.ref();
      child.send({ id, planes, width, height }, (cause) => {
        if (cause) settle(id, (one) => one.reject(cause));
      });
    });
}

/**
 * Loads the trained net, in a process of its own. Where its file or the native library that runs it is missing the finders work
 * without it.
 *
 * @param threads that it may use for one window
 */
export async function startWitness(threads: number, file: string = WITNESS_FILE): Promise<StartedWitness> {
  if (!existsSync(file)) return { missing: 'no net' };
  const child = fork(PROGRAM, [file, String(threads)], {
    ...{ serialization: 'advanced', execArgv: [], stdio: ['ignore', 'ignore', 'ignore', 'ipc'] },
  });
  const cause = await new Promise<string | null>((resolve) => {
    child.once('message', (said: Said) => resolve(said.ready ? null : (said.cause ?? 'no reason was said')));
    child.once('error', ({ message }) => resolve(message));
    child.once('exit', () => resolve('its process has ended'));
  });
  if (cause !== null) return { missing: 'no library', cause };
  child.unref();
  child.channel?.unref();
  return { witness: askedIn(child) };
}
