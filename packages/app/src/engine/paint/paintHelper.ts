import type { Lamp } from '@fennip/core/lamp';
import type { Raster } from '@fennip/core/raster';
import type { LaidPixels, TreatTask } from '@fennip/core/recipe';
import { applyLamp } from '@fennip/core/lamp';
import { treatWindow } from '@fennip/core/recipe';
import { transfer } from 'comlink';
import type { FinishGround } from './finishPart.ts';
import { finishPart } from './finishPart.ts';
import type { LevelPlace } from './paintTile.ts';

/** A part of a level that is to be finished. */
export interface FinishTask {
  readonly part: Raster;
  readonly place: LevelPlace;
  readonly ground: FinishGround;
}

/** A part of a level that is to be seen under a lamp. */
export interface LightTask {
  readonly part: Raster;
  readonly place: LevelPlace;
  readonly lamp: Lamp;
}

/** Does for the worker that paints what takes long. */
export interface PaintHelper {
  treat(task: TreatTask): LaidPixels | null;
  finish(task: FinishTask): Raster;
  light(task: LightTask): Raster;
}

export const paintHelper: PaintHelper = {
  treat(task) {
    const laid = treatWindow(task);
    return laid && transfer(laid, [laid.after.planes[0].buffer]);
  },
  finish({ part, place, ground }) {
    const finished = finishPart(part, place, ground);
    return transfer(finished, [finished.planes[0].buffer]);
  },
  light({ part, place, lamp }) {
    const lit = applyLamp(part, lamp, place);
    return transfer(lit, [lit.planes[0].buffer]);
  },
};
