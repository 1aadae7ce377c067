import type { TileSource } from './tileStore.ts';

/** Fetches a tile from the server into memory that all workers can read. */
export const fetchTile: TileSource = async (picture, level, column, row) => {
  const answer = await fetch(`/api/tiles/${picture.pyramid}/${level}/${column}/${row}`);
  if (!answer.ok) throw new Error(`tile ${level}/${column}/${row}: ${answer.status}`);
  const bytes = new Uint8Array(await answer.arrayBuffer());
  const shared = new SharedArrayBuffer(bytes.length);
  new Uint8Array(shared).set(bytes);
  return shared;
};
