import type { Scene } from '../render/scene.ts';
import { scene as openingDay } from './openingDay.ts';
import { scene as viaduct } from './viaduct.ts';
import { scene as wagon } from './wagon.ts';

/** The scenes by name. */
export const SCENES = { openingDay, viaduct, wagon } satisfies Record<string, Scene>;

export type SceneName = keyof typeof SCENES;
