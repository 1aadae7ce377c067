import type { LaidPixels, TreatTask } from '@fennip/core';
import { treatWindow } from '@fennip/core';
import { transfer } from 'comlink';

/** Carries out a treatment for another worker. */
export type TreatHelper = (task: TreatTask) => LaidPixels | null;

export const treatForOthers: TreatHelper = (task) => {
  const laid = treatWindow(task);
  return laid && transfer(laid, [laid.after.planes[0].buffer]);
};
