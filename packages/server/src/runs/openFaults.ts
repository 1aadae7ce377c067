import { randomUUID } from 'node:crypto';
import type { FaultToMend, Mend, MendSurroundings, NumberedFault, Recipe } from '@fennip/core';
import { placesUsedBy, takenPlaces } from '@fennip/core';
import type { FaultSheet } from '../examine/faultRows.ts';

/** A fault of the ledger as one that is to be mended, under a new id. */
export const toMend = (fault: NumberedFault): FaultToMend => ({
  id: `m${randomUUID().slice(0, 13)}`,
  fault: fault.id,
  ...{ x: fault.x, y: fault.y, r: fault.r, softness: fault.softness },
  ...{ polarity: fault.polarity, kind: fault.kind },
  ...(fault.path ? { path: fault.path } : {}),
  ...(fault.outline ? { outline: fault.outline } : {}),
  ...(fault.known ? { known: fault.known } : {}),
});

/** The faults of a ledger that were neither mended nor decided about; what a mend left over is not among them. */
export function openFaults(
  { faults, marked, judgements }: FaultSheet,
  mends: readonly Mend[],
): NumberedFault[] {
  const answered = new Set(mends.map(({ fault }) => fault));
  return [...faults, ...marked].filter(
    ({ id, origin }) => judgements[id] === undefined && !answered.has(id) && !origin,
  );
}

/** What new mends of a picture must keep clear of. */
export function surroundingsOf(sheet: FaultSheet, recipe: Recipe): MendSurroundings {
  const open = openFaults(sheet, recipe.mends);
  const answered = new Set(recipe.mends.map(({ fault }) => fault));
  const mended = [...sheet.faults, ...sheet.marked].filter(({ id }) => answered.has(id));
  return {
    avoid: takenPlaces(open.map(toMend)),
    mended: takenPlaces(mended.map(toMend)),
    used: placesUsedBy(recipe.mends),
    ...(recipe.fences ? { fences: recipe.fences } : {}),
  };
}
