import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';

/** A file in the store, by the hash of what it holds. */
export interface StoredFile {
  /** 64 hexadecimal digits (FIPS 180-4). */
  readonly sha256: string;
  readonly sizeBytes: number;
}

/** The size and the hash of a file, read from disk. */
export async function hashFile(path: string): Promise<StoredFile> {
  const hash = createHash('sha256');
  let sizeBytes = 0;
  for await (const chunk of createReadStream(path) as AsyncIterable<Buffer>) {
    sizeBytes += chunk.length;
    hash.update(chunk);
  }
  return { sha256: hash.digest('hex'), sizeBytes };
}
