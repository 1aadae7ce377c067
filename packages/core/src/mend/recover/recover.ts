import { allowanceOn } from '../../fence/allowance.ts';
import type { PictureShape, Raster } from '../../raster/raster.ts';
import { cloneRaster } from '../../raster/raster.ts';
import type { Rect } from '../../raster/rect.ts';
import { isEmpty } from '../../raster/rect.ts';
import { readSource } from '../../source/readSource.ts';
import type { TargetField } from '../../target/targetField.ts';
import { fieldRect, targetField } from '../../target/targetField.ts';
import { targetMiddle } from '../../target/targetMiddle.ts';
import { GAP_BAND } from '../bridge/closeGap.ts';
import type { Canvas } from '../canvas.ts';
import { healField, healReads, RING } from '../heal/heal.ts';
import type { RecoverMend } from './recoverMend.ts';
import type { Patch } from '../../raster/patch.ts';
import { EMPTY_PATCH, layPatch } from '../../raster/patch.ts';
import { recoverLine } from './line/recoverLine.ts';
import { undoStain } from './stain/undoStain.ts';
import { undoTint } from './undoTint.ts';
import { undoSpot } from './undoSpot.ts';
import { veilField } from '../../veil/veil.ts';

/** The rectangles a recover looks at: those of the heal or the bridge that may fill its middle. */
export function recoverReads(mend: RecoverMend, picture: PictureShape): Rect[] {
  if (mend.veil.kind !== 'line') return healReads(mend, picture);
  const rect = fieldRect(mend, picture, GAP_BAND);
  return isEmpty(rect) ? [] : [rect];
}

/**
 * Undoes a veil or a tint in linear light, through the picture's own transfer curve, and keeps the picture's own
 * detail. Where too little light came through, what is recovered gives way: in a spot to a heal from the source, whose
 * ring is what was recovered around it, in a line to what its sides carry across.
 */
export function recover(mend: RecoverMend, canvas: Canvas): Patch {
  const { pixels } = canvas;
  const field = targetField(mend, pixels.shape, mend.veil.kind === 'line' ? GAP_BAND : RING);
  const { rect, coverage } = field;
  if (isEmpty(rect)) return EMPTY_PATCH;
  if (mend.veil.kind === 'line') return recoverLine(mend, mend.veil, canvas, field);
  const here = pixels.window(rect);
  if (mend.veil.kind === 'tint') return { rect, values: undoTint(mend.veil, here, pixels.shape), coverage };
  if (mend.veil.kind === 'stain') {
    if (mend.target.shape !== 'outline') return EMPTY_PATCH;
    return { rect, values: undoStain(mend.veil, mend.target, here, pixels.shape), coverage };
  }
  const amount = veilField(mend.veil, rect);
  const { values, trust } = undoSpot(mend.veil, amount, here.raster, pixels.shape);
  const recovered: Patch = { rect, values, coverage: touched(coverage, amount) };
  if (trust.every((share, i) => share === 1 || coverage[i] === 0)) return recovered;
  const base = cloneRaster(here.raster);
  layPatch(recovered, { ...here, raster: base });
  return healMiddle(mend, canvas, field, recovered, trust, base);
}

/** Nothing is laid down where the veil does not lie. */
const touched = (coverage: Float32Array, amount: Float32Array): Float32Array =>
  coverage.map((share, i) => (amount[i] === 0 ? 0 : share));

/** Replaces what cannot be trusted by a heal. */
function healMiddle(
  mend: RecoverMend,
  { pixels, fences }: Canvas,
  { rect, coverage }: TargetField,
  recovered: Patch,
  trust: Float32Array,
  base: Raster,
): Patch {
  const doubt = trust.map((share, i) => (coverage[i] > 0 ? 1 - share : 0));
  const source = mend.source
    ? readSource(pixels, mend.source, targetMiddle(mend.target), rect, { fences, zone: mend.zone })
    : null;
  const healed = healField({
    field: { rect, coverage: doubt },
    here: base,
    source,
    allowance: allowanceOn(fences, mend.zone, rect, pixels.shape),
  });
  const values = recovered.values.map((plane, c) =>
    plane.map((value, i) => value + healed.coverage[i] * (healed.values[c][i] - value)),
  );
  const lost = healed.coverage.map((share, i) =>
    Math.max(recovered.coverage[i], share > 0 ? coverage[i] : 0),
  );
  return { rect, values, coverage: lost };
}
