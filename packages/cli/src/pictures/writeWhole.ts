import { sentenceOf } from '@fennip/contract';
import { rename, rm, writeFile } from 'node:fs/promises';
import { RefusedError } from '../errors/usage.ts';

/** Writes a file so that it is there whole or not at all. @throws RefusedError when it cannot be written */
export async function writeWhole(path: string, content: string | Uint8Array): Promise<void> {
  const part = `${path}.part`;
  try {
    await writeFile(part, content);
    await rename(part, path);
  } catch (error) {
    await rm(part, { force: true });
    throw new RefusedError(`${path} cannot be written: ${sentenceOf(error)}`);
  }
}
