import type { Transfer } from '../light/transfer.ts';
import { RecipeError } from '../errors.ts';
import { finishReach } from '../finish/applyFinish.ts';
import type { FinishStep } from '../finish/finishStep.ts';
import { framingOf } from '../finish/framing/framing.ts';
import type { Mend } from '../mend/mend.ts';
import type { SpotMend } from '../mend/spotMend.ts';
import { isSpotMend } from '../mend/mend.ts';
import { treatmentFootprint } from '../mend/treat/applyTreatment.ts';
import type { Treatment } from '../mend/treat/treatment.ts';
import type { Raster } from '../raster/raster.ts';
import { cloneRaster, createSharedRaster, sharedCopy, viewRaster } from '../raster/raster.ts';
import { wholeWindow } from '../raster/window.ts';
import { independentMends } from './independentMends.ts';
import { piecesOn } from './pieces.ts';
import type { Recipe } from './recipe.ts';
import type { KeptRows, RenderGround, RenderPart } from './renderPart.ts';
import { renderPart } from './renderPart.ts';

export interface RenderOptions {
  /** What the encoded values mean in light, for each colour channel; sRGB where it is missing. */
  readonly transfer?: readonly Transfer[];
  /** Called with how many mends are done. */
  readonly done?: (count: number) => void;
}

const readsOriginal = (mend: Mend): boolean => mend.method === 'clone' && mend.reads === 'original';

function groundOf(
  raster: Raster,
  { picture, mends, fences = [] }: Recipe,
  { transfer }: RenderOptions,
  copy: (raster: Raster) => Raster,
): RenderGround {
  if (picture.width !== raster.width || picture.height !== raster.height)
    throw new RecipeError(
      'picture',
      `is ${picture.width} x ${picture.height}, but the picture is ${raster.width} x ${raster.height}`,
    );
  const original = mends.some(readsOriginal) ? copy(raster) : null;
  return { raster, original, fences, ...(transfer ? { transfer } : {}) };
}

/**
 * Carries out a recipe on a whole picture, in place: one mend after the other, each on what the ones before it left,
 * then the values of its finish. It stays upright and whole: how it is framed is for `frameWhole`.
 *
 * @param raster encoded values, 8 or 16 bit, of the whole upright picture
 * @throws RecipeError when the recipe is for a picture of other sides
 */
export function renderRecipe(raster: Raster, recipe: Recipe, options: RenderOptions = {}): void {
  const ground = groundOf(raster, recipe, options, cloneRaster);
  recipe.mends.forEach((mend, index) => {
    if (mend.on)
      renderPart(ground, isSpotMend(mend) ? { kind: 'mends', mends: [mend] } : treated(ground, mend));
    options.done?.(index + 1);
  });
  const { finish = [] } = recipe;
  if (finish.length > 0)
    renderPart(ground, { kind: 'finish', finish, top: 0, bottom: raster.height, kept: [] });
}

function treated({ raster, transfer }: RenderGround, mend: Treatment): RenderPart {
  const pieces = piecesOn(treatmentFootprint(mend, wholeWindow(raster, transfer).picture));
  return { kind: 'treatment', mend, pieces, before: cloneRaster(raster) };
}

/** Who carries out parts, and how many at a time. */
export interface PartRenderers {
  readonly count: number;
  /** Carries out a part, here or elsewhere, on the ground's own samples. */
  render(ground: RenderGround, part: RenderPart): Promise<void>;
}

async function together(
  { render }: PartRenderers,
  ground: RenderGround,
  parts: readonly RenderPart[],
): Promise<void> {
  await Promise.all(parts.map((part) => render(ground, part)));
}

/**
 * Carries out a recipe on a whole picture, in place, in parts that need nothing of each other and may be carried out at
 * the same time. The picture is the one that {@link renderRecipe} makes.
 *
 * @param raster in shared memory
 * @throws RecipeError when the recipe is for a picture of other sides
 */
export async function renderInParts(
  raster: Raster,
  recipe: Recipe,
  renderers: PartRenderers,
  options: RenderOptions = {},
): Promise<void> {
  const ground = groundOf(raster, recipe, options, sharedCopy);
  let count = 0;
  for (const stage of stagesOf(recipe.mends)) {
    const parts =
      stage.kind === 'mends'
        ? sharedMends(ground, stage.mends, renderers.count)
        : sharedPieces(ground, stage.mend, renderers.count);
    await together(renderers, ground, parts);
    count += stage.kind === 'mends' ? stage.mends.length : 1;
    options.done?.(count);
  }
  const { finish = [] } = recipe;
  if (finish.length > 0) await together(renderers, ground, sharedRows(ground, finish, renderers.count));
}

/**
 * A whole picture as its finish frames it, in parts: what `frameWhole` makes of it.
 *
 * @param raster encoded values, 8 or 16 bit
 */
export async function frameInParts(
  raster: Raster,
  finish: readonly FinishStep[],
  renderers: PartRenderers,
): Promise<Raster> {
  const framing = framingOf(raster, finish);
  if (!framing) return raster;
  const { width, height } = framing;
  const onto = createSharedRaster(width, height, raster.planes.length, raster.depth);
  const step = Math.ceil(height / renderers.count);
  const parts = Array.from({ length: Math.ceil(height / step) }, (_, k): RenderPart => {
    const part = { left: 0, top: k * step, width, height: Math.min(step, height - k * step) };
    return { kind: 'frame', finish, part, onto };
  });
  await together(renderers, { raster, original: null, fences: [] }, parts);
  return onto;
}

/** Mends that can be shared out among themselves, and treatments, which come alone. */
type Stage =
  | { readonly kind: 'mends'; readonly mends: SpotMend[] }
  | { readonly kind: 'treatment'; readonly mend: Treatment };

function stagesOf(mends: readonly Mend[]): Stage[] {
  const stages: Stage[] = [];
  for (const mend of mends) {
    if (!mend.on) continue;
    const last = stages.at(-1);
    if (!isSpotMend(mend)) stages.push({ kind: 'treatment', mend });
    else if (last?.kind === 'mends') last.mends.push(mend);
    else stages.push({ kind: 'mends', mends: [mend] });
  }
  return stages;
}

/** More parts than are carried out at a time: none waits long for a dear one. */
const FINER = 4;

const sharedMends = (
  { raster, transfer }: RenderGround,
  mends: readonly SpotMend[],
  parts: number,
): RenderPart[] =>
  independentMends(mends, wholeWindow(raster, transfer).picture, FINER * parts).map((share) => ({
    kind: 'mends',
    mends: share,
  }));

function sharedPieces({ raster, transfer }: RenderGround, mend: Treatment, parts: number): RenderPart[] {
  const pieces = piecesOn(treatmentFootprint(mend, wholeWindow(raster, transfer).picture));
  const before = sharedCopy(raster);
  const step = Math.ceil(pieces.length / (FINER * parts));
  return Array.from({ length: Math.ceil(pieces.length / Math.max(1, step)) }, (_, k) => ({
    kind: 'treatment',
    mend,
    pieces: pieces.slice(k * step, (k + 1) * step),
    before,
  }));
}

/** Rows shared out, each part with what its steps look at beyond it. */
function sharedRows({ raster }: RenderGround, finish: readonly FinishStep[], parts: number): RenderPart[] {
  const { width, height } = raster;
  const reach = finishReach(finish);
  const step = Math.ceil(height / parts);
  const rows = (top: number, bottom: number): KeptRows[] => {
    const [from, to] = [Math.max(0, top), Math.min(height, bottom)];
    if (to <= from) return [];
    return [
      { top: from, raster: sharedCopy(viewRaster(raster, { left: 0, top: from, width, height: to - from })) },
    ];
  };
  return Array.from({ length: Math.ceil(height / step) }, (_, k) => {
    const [top, bottom] = [k * step, Math.min(height, (k + 1) * step)];
    return {
      kind: 'finish',
      finish,
      top,
      bottom,
      kept: [...rows(top - reach, top), ...rows(bottom, bottom + reach)],
    };
  });
}
