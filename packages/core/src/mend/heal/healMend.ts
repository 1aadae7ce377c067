import type { Source } from '../../source/source.ts';
import type { MendBase } from '../mendBase.ts';

/** Texture from a source, tone and colour from the surroundings. Without a source: the surroundings carried in. */
export interface HealMend extends MendBase {
  readonly method: 'heal';
  readonly source: Source | null;
}
