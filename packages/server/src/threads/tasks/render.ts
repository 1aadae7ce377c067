import type { RenderGround, RenderPart } from '@fennip/core/recipe';
import { renderPart } from '@fennip/core/recipe';
import { collect } from '../collect.ts';

/** Renders a part of a recipe, on samples that all threads share. */
export function render({ ground, part }: { readonly ground: RenderGround; readonly part: RenderPart }): void {
  renderPart(ground, part);
  // Bands in floating point are much, and the picture is held until then; a patch is not worth the time.
  if (part.kind === 'finish' || part.kind === 'frame') setImmediate(collect);
}
