import { existsSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import type { Witness } from '@fennip/core/witness';
import { WITNESS_MAPS, WITNESS_PLANES } from '@fennip/core/witness';

/**
 * The trained net, in the open format ONNX (opset 13). It is found by the package's name: in a thread this module is part of a
 * bundle that lies elsewhere.
 */
export const WITNESS_FILE = join(
  dirname(createRequire(import.meta.url).resolve('@fennip/witness/package.json')),
  'net/witness.onnx',
);

/** Why there is no net to ask. */
export type NoWitness = 'no net' | 'no library';

/** A net that is ready to be asked, or why there is none. */
export type StartedWitness =
  { readonly witness: Witness } | { readonly missing: NoWitness; readonly cause?: unknown };

/**
 * Loads the trained net. Where its file or the native library that runs it is missing the finders work without it.
 *
 * @param threads that it may use for one window
 */
export async function startWitness(threads: number, file: string = WITNESS_FILE): Promise<StartedWitness> {
  if (!existsSync(file)) return { missing: 'no net' };
  try {
    const runtime = await import('onnxruntime-node');
    const session = await runtime.InferenceSession.create(file, {
      intraOpNumThreads: threads,
      interOpNumThreads: 1,
      graphOptimizationLevel: 'all',
      executionProviders: ['cpu'],
    });
    return {
      witness: async (planes, width, height) => {
        const input = new runtime.Tensor('float32', planes, [1, WITNESS_PLANES, height, width]);
        const { maps } = await session.run({ planes: input });
        if (maps.dims[1] !== WITNESS_MAPS.length) throw new Error(`the net gives ${maps.dims[1]} maps`);
        return maps.data as Float32Array;
      },
    };
  } catch (cause) {
    return { missing: 'no library', cause };
  }
}
