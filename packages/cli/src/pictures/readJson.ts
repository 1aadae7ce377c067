import { sentenceOf } from '@fennip/contract';
import { readFile } from 'node:fs/promises';
import { RefusedError } from '../errors/usage.ts';

/** Reads a JSON file. @throws RefusedError when there is none or it is none */
export async function readJson(path: string): Promise<unknown> {
  const text = await readFile(path, 'utf8').catch(() => {
    throw new RefusedError(`There is no readable file at ${path}.`);
  });
  try {
    return JSON.parse(text);
  } catch (error) {
    throw new RefusedError(`${path} is not JSON: ${sentenceOf(error)}`);
  }
}
