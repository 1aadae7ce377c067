import type { Scene } from '../render/scene.ts';
import { SHOTS, sceneOf } from './lineShoot.ts';
import { scene as openingDay } from './openingDay.ts';
import { scene as viaduct } from './viaduct.ts';
import { scene as wagon } from './wagon.ts';

/** The scenes by name. */
export const SCENES = {
  openingDay,
  viaduct,
  wagon,
  lineShoot1: sceneOf(SHOTS.lineShoot1),
  lineShoot2: sceneOf(SHOTS.lineShoot2),
  lineShoot4: sceneOf(SHOTS.lineShoot4),
  lineShoot5: sceneOf(SHOTS.lineShoot5),
  lineShoot6: sceneOf(SHOTS.lineShoot6),
  lineShoot7: sceneOf(SHOTS.lineShoot7),
  lineShoot8: sceneOf(SHOTS.lineShoot8),
} satisfies Record<string, Scene>;

export type SceneName = keyof typeof SCENES;
