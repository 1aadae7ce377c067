import type { LedgerEntry } from '@fennip/core/ledger';
import { drawFocus } from './drawFocus.ts';
import type { MarkScene } from './drawMark.ts';
import { drawMark, isDrafted, isLine, isNamed, shownTarget } from './drawMark.ts';
import { fadedBoxes } from './fadedBoxes.ts';
import type { Box } from './markBoxes.ts';
import { markBoxes } from './markBoxes.ts';
import { isSeenAlike, markChanges } from './markChanges.ts';
import { createMarkSprites } from './markSprites.ts';

/** All marks of a picture. Thousands of them are kept as they rest; with a frame only those are drawn that the pointer or the hand makes look different. */
export interface MarkLayer {
  draw(context: CanvasRenderingContext2D, scene: MarkScene): void;
}

const FONT = '500 11px "IBM Plex Mono", monospace';

/** How far another mark and its number may reach into a part of the screen, in screen pixels. */
const ROOM = { mark: 16, number: 70 };

/** So many parts of the screen are drawn anew one by one; for more of them all is, which takes less. */
const FEW = 24;

/** The lines that are drawn over all other marks with each frame: they are long, and wind past many others that would have to be drawn anew with them. */
function linesOver(scene: MarkScene): LedgerEntry[] {
  if (scene.chosen.size > FEW) return [];
  return scene.shown.filter((entry) => isOver(scene, entry) && isLine(shownTarget(entry, scene)));
}

const isOver = ({ chosen, focus }: MarkScene, entry: LedgerEntry): boolean =>
  entry === focus || chosen.has(entry.id);

/** A scene without what is drawn over it. */
function withoutLines(scene: MarkScene, over: readonly LedgerEntry[]): MarkScene {
  if (over.length === 0) return scene;
  const chosen = new Set(scene.chosen);
  for (const { id } of over) chosen.delete(id);
  return { ...scene, chosen, focus: scene.focus && over.includes(scene.focus) ? null : scene.focus };
}

/** Chosen ones last, on top of the others. */
const inOrder = ({ chosen }: MarkScene, entries: readonly LedgerEntry[]): readonly LedgerEntry[] => [
  ...entries.filter(({ id }) => !chosen.has(id)),
  ...entries.filter(({ id }) => chosen.has(id)),
];

export function createMarkLayer(): MarkLayer {
  const sprites = createMarkSprites();
  /** All marks as they rest. */
  const resting = document.createElement('canvas');
  /** The same but for those that the pointer makes fade. */
  const faded = document.createElement('canvas');
  let last: { readonly scene: MarkScene; readonly ratio: number } | null = null;

  function drawAll(
    context: CanvasRenderingContext2D,
    scene: MarkScene,
    entries: readonly LedgerEntry[],
  ): void {
    context.font = FONT;
    for (const entry of inOrder(scene, entries))
      if (!isDrafted(scene, entry)) drawMark(context, sprites, scene, entry);
  }

  /** Draws parts of the screen anew, and nothing beyond them: one by one, because a clip of many is not cut sharp. */
  function drawParts(context: CanvasRenderingContext2D, scene: MarkScene, boxes: readonly Box[]): void {
    const room = scene.withTags ? ROOM.number : ROOM.mark;
    // Where others have none, these have a number.
    const named = scene.shown.filter((entry) => isNamed(scene, entry));
    for (const { left, top, right, bottom } of boxes) {
      context.save();
      context.beginPath();
      context.rect(left, top, right - left, bottom - top);
      context.clip();
      context.clearRect(left, top, right - left, bottom - top);
      const near = scene.within(left - room, top - room, right + room, bottom + room);
      drawAll(context, scene, [...new Set([...near, ...named])]);
      context.restore();
    }
  }

  /** Brings what rests up to date: all of it, or what changed of it. */
  function keepResting(scene: MarkScene, ratio: number): void {
    const before = last;
    last = { scene, ratio };
    const changes =
      before?.ratio === ratio && isSeenAlike(before.scene, scene) ? markChanges(before.scene, scene) : null;
    const context = resting.getContext('2d');
    if (!before || !changes || !context || changes.changed.length > FEW) return paintResting(scene, ratio);
    const boxes = changes.changed.flatMap((entry) => [
      ...markBoxes(before.scene, entry),
      ...markBoxes(scene, entry),
    ]);
    if (boxes.length > FEW) return paintResting(scene, ratio);
    const atRest = { ...scene, pointer: null, hovered: null };
    drawAll(context, atRest, changes.added);
    if (boxes.length > 0) drawParts(context, atRest, boxes);
  }

  function paintResting(scene: MarkScene, ratio: number): void {
    const { width, height } = scene.table;
    const [wide, high] = [Math.max(1, Math.round(width * ratio)), Math.max(1, Math.round(height * ratio))];
    // A canvas of another size is another canvas, even where it has the same size again.
    for (const canvas of [resting, faded])
      if (canvas.width !== wide || canvas.height !== high) [canvas.width, canvas.height] = [wide, high];
    const context = resting.getContext('2d');
    if (!context) return;
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    context.clearRect(0, 0, width, height);
    drawAll(context, { ...scene, pointer: null, hovered: null }, scene.within(0, 0, width, height));
  }

  /** All marks, of which those near the pointer fade. */
  function withFaded(scene: MarkScene, ratio: number): HTMLCanvasElement {
    const boxes = fadedBoxes(scene);
    const context = boxes.length > 0 ? faded.getContext('2d') : null;
    if (!context) return resting;
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.globalCompositeOperation = 'copy';
    context.drawImage(resting, 0, 0);
    context.globalCompositeOperation = 'source-over';
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    drawParts(context, scene, boxes);
    return faded;
  }

  return {
    draw(context, scene) {
      const ratio = context.getTransform().a;
      sprites.setRatio(ratio);
      const over = linesOver(scene);
      const below = withoutLines(scene, over);
      keepResting(below, ratio);
      const all = withFaded(below, ratio);
      context.drawImage(all, 0, 0, all.width / ratio, all.height / ratio);
      drawAll(context, scene, over);
      context.font = FONT;
      if (scene.drafted || scene.hovered !== null)
        for (const entry of scene.shown)
          if (isDrafted(scene, entry) || entry.id === scene.hovered) drawMark(context, sprites, scene, entry);
      drawFocus(context, scene);
    },
  };
}
