import type { Fence } from '../fence/fence.ts';
import { mendFootprint } from '../mend/applyMend.ts';
import type { SpotMend } from '../mend/spotMend.ts';
import type { Patch } from '../raster/patch.ts';
import type { RebuildTask } from '../mend/rebuild/rebuildTask.ts';
import type { PictureShape } from '../raster/raster.ts';
import type { Window } from '../raster/window.ts';
import { madeBy } from './elsewhere.ts';

/** All that decides what a mend makes: the same work makes the same patch. */
export interface PatchWork {
  /** What the mend says of it, as text. */
  readonly document: string;
  readonly fences: readonly Fence[];
  /** All that the mend looks at, as it lay under it. */
  readonly windows: readonly Window[];
}

/** What mends made before. A mend that is not known is worked out. */
export interface PatchMemory {
  /** What was made of this work; null where that is not known. */
  find(work: PatchWork): Promise<Patch | null>;
  /** Keeps what was made of it; nobody waits for that. */
  keep(work: PatchWork, patch: Patch): void;
}

/** What decides what a rebuild that is worked out elsewhere makes; how it is laid down does not. */
export const rebuildWork = ({ mend, fences, window }: RebuildTask): PatchWork => ({
  document: madeBy(mend),
  fences,
  windows: [window],
});

/** A mend that covers fewer pixels is worked out sooner than it is looked up: bridges take longest. */
const LEAST_AREA = { bridge: 24 * 24, recover: 64 * 64 } as const;

/** True if a mend that is worked out here takes longer for that than to be looked up. Clones and heals do not. */
export function isWorthKeeping(mend: SpotMend, picture: PictureShape): boolean {
  if (mend.method !== 'bridge' && mend.method !== 'recover') return false;
  const { width, height } = mendFootprint(mend, picture);
  return width * height >= LEAST_AREA[mend.method];
}
