import type { Lamp } from '@fennip/core/lamp';
import type { Raster } from '@fennip/core/raster';
import type { LaidPixels, TreatBy, TreatTask } from '@fennip/core/recipe';
import { applyLamp, lampReach } from '@fennip/core/lamp';
import { TILE_SIZE, cloneRaster } from '@fennip/core/raster';
import { treatWindow } from '@fennip/core/recipe';
import type { Remote } from 'comlink';
import { transfer } from 'comlink';
import type { FinishGround } from '../paint/finishPart.ts';
import { finishPart } from '../paint/finishPart.ts';
import type { PaintHelper } from '../paint/paintHelper.ts';
import { takesLong } from '../paint/takesLong.ts';
import type { LevelPlace } from '../paint/paintTile.ts';

/** Other workers that share with the painting one what takes long, each with what it has worked out before. */
export interface PaintTeam {
  add(helper: Remote<PaintHelper>): void;
  count(): number;
  /** Carries a treatment out: the helper that had this place before may remember half of the work. */
  readonly treat: TreatBy;
  /** Carries a treatment out, by the helper whose turn it is. */
  treatInTurn(turn: number, task: TreatTask): Promise<LaidPixels | null>;
  /** A part of a level under the finish. */
  finish(part: Raster, place: LevelPlace, ground: FinishGround): Promise<Raster>;
  /** A part of a level under a lamp. */
  light(part: Raster, place: LevelPlace, lamp: Lamp): Promise<Raster>;
}

export function createPaintTeam(): PaintTeam {
  const helpers: Remote<PaintHelper>[] = [];
  /** Whose turn it is to do what takes long to a part. */
  let next = 0;

  /** Does something to a part, by a helper where it is one's turn and it takes long. */
  async function share(
    part: Raster,
    isLong: boolean,
    here: (part: Raster) => Raster,
    there: (helper: Remote<PaintHelper>, sent: Raster) => Promise<Raster>,
  ): Promise<Raster> {
    const turn = isLong ? next++ % (helpers.length + 1) : helpers.length;
    if (turn === helpers.length) {
      // What is for the helpers is sent off first.
      if (isLong) await new Promise((resolve) => setTimeout(resolve));
      return here(part);
    }
    // A part of a larger raster would be sent with all of it.
    return there(helpers[turn], cloneRaster(part));
  }

  async function treatInTurn(turn: number, task: TreatTask): Promise<LaidPixels | null> {
    if (helpers.length === 0) return treatWindow(task);
    const window = { ...task.window, raster: cloneRaster(task.window.raster) };
    return helpers[turn % helpers.length].treat(
      transfer({ ...task, window }, [window.raster.planes[0].buffer]),
    );
  }

  return {
    add: (helper) => void helpers.push(helper),
    count: () => helpers.length,
    treat: (task) =>
      treatInTurn(Math.floor(task.within.left / TILE_SIZE) + Math.floor(task.within.top / TILE_SIZE), task),
    treatInTurn,
    finish: (part, place, ground) =>
      share(
        part,
        ground.steps.some(takesLong),
        (whole) => finishPart(whole, place, ground),
        (helper, sent) => helper.finish(transfer({ part: sent, place, ground }, [sent.planes[0].buffer])),
      ),
    light: (part, place, lamp) =>
      share(
        part,
        lampReach(lamp, place.level) > 1,
        (whole) => applyLamp(whole, lamp, place),
        (helper, sent) => helper.light(transfer({ part: sent, place, lamp }, [sent.planes[0].buffer])),
      ),
  };
}
