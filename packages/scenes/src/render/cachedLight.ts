import { mkdir, readFile, rename, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { SceneName } from '../pictures/scenes.ts';
import type { Frame } from './renderRows.ts';
import { renderLight } from './renderLight.ts';

/** Renders a scene, or reads what an earlier run rendered: faults and film can then be changed without waiting. */
export async function cachedLight(folder: string, scene: SceneName, frame: Frame): Promise<Float32Array> {
  const path = join(folder, `${scene}-${frame.width}x${frame.height}.light`);
  try {
    const bytes = await readFile(path);
    return new Float32Array(bytes.buffer, bytes.byteOffset, bytes.byteLength / 4);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ENOENT') throw error;
  }
  const light = await renderLight(scene, frame);
  await mkdir(folder, { recursive: true });
  await writeFile(`${path}.part`, light);
  await rename(`${path}.part`, path);
  return light;
}
