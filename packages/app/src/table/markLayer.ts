import type { LedgerEntry } from '@fennip/core';
import { targetBounds } from '@fennip/core';
import { TAG_ROOM, drawFocus } from './drawFocus.ts';
import type { MarkScene } from './drawMark.ts';
import { FADE_FAR, drawMark, fadeOf, shownTarget } from './drawMark.ts';
import { markHalf } from './drawTarget.ts';
import { createMarkSprites } from './markSprites.ts';
import { toScreen } from './viewport.ts';

/** All marks of a picture. Thousands of them are kept as they rest; with a frame only those are drawn that the pointer or the hand makes look different. */
export interface MarkLayer {
  draw(context: CanvasRenderingContext2D, scene: MarkScene): void;
}

interface Box {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

/** Whether marks that are the same entries lie at the same places and look the same. */
const isSeenAlike = (a: MarkScene, b: MarkScene): boolean =>
  a.view === b.view && a.table === b.table && a.withTags === b.withTags && a.colours === b.colours;

/** The entries whose marks look different at rest, as they were and as they are. */
function changedMarks(a: MarkScene, b: MarkScene): LedgerEntry[] {
  const changed = new Set<LedgerEntry>();
  if (a.shown !== b.shown) {
    const [before, after] = [new Set(a.shown), new Set(b.shown)];
    for (const entry of a.shown) if (!after.has(entry)) changed.add(entry);
    for (const entry of b.shown) if (!before.has(entry)) changed.add(entry);
  }
  if (a.chosen !== b.chosen)
    for (const entry of b.shown) if (a.chosen.has(entry.id) !== b.chosen.has(entry.id)) changed.add(entry);
  if (a.focus !== b.focus) for (const entry of [a.focus, b.focus]) if (entry) changed.add(entry);
  if (a.drafted?.id !== b.drafted?.id)
    for (const entry of b.shown) if (isDrafted(a, entry) || isDrafted(b, entry)) changed.add(entry);
  return [...changed];
}

/** So many marks are drawn anew one by one; of more all are. */
const FEW = 24;

const isDrafted = ({ drafted }: MarkScene, { mend }: LedgerEntry): boolean =>
  drafted !== null && mend?.id === drafted.id;

/** Chosen ones last, on top of the others. */
const inOrder = ({ chosen }: MarkScene, entries: readonly LedgerEntry[]): readonly LedgerEntry[] => [
  ...entries.filter(({ id }) => !chosen.has(id)),
  ...entries.filter(({ id }) => chosen.has(id)),
];

/** The largest radius, in pixels of the picture, whose mark is looked for around the pointer. */
const LARGE = 60;

/** The marks that the pointer makes fade. */
function fadedMarks(scene: MarkScene): readonly LedgerEntry[] {
  if (!scene.pointer) return [];
  const [x, y] = scene.pointer;
  const reach = FADE_FAR + markHalf(LARGE, scene.view.scale);
  return scene
    .within(x - reach, y - reach, x + reach, y + reach)
    .filter((entry) => !isDrafted(scene, entry) && fadeOf(scene, entry) < 1);
}

/** The part of the screen that a mark and its number take up. */
function boxOf(scene: MarkScene, entry: LedgerEntry): Box {
  const { left, top, width, height } = targetBounds(shownTarget(entry, scene), 0);
  const corners = [
    [left, top],
    [left + width, top],
    [left, top + height],
    [left + width, top + height],
  ].map(([x, y]) => toScreen(scene.view, scene.table, x, y));
  const [xs, ys] = [corners.map(([x]) => x), corners.map(([, y]) => y)];
  const room = markHalf(entry.r, scene.view.scale) + TAG_ROOM.width;
  return {
    left: Math.floor(Math.min(...xs) - room),
    top: Math.floor(Math.min(...ys) - room),
    right: Math.ceil(Math.max(...xs) + room),
    bottom: Math.ceil(Math.max(...ys) + room),
  };
}

const around = (boxes: readonly Box[]): Box => ({
  left: Math.min(...boxes.map(({ left }) => left)),
  top: Math.min(...boxes.map(({ top }) => top)),
  right: Math.max(...boxes.map(({ right }) => right)),
  bottom: Math.max(...boxes.map(({ bottom }) => bottom)),
});

export function createMarkLayer(): MarkLayer {
  const sprites = createMarkSprites();
  const canvas = document.createElement('canvas');
  let last: { readonly scene: MarkScene; readonly ratio: number } | null = null;

  function drawAll(
    context: CanvasRenderingContext2D,
    scene: MarkScene,
    entries: readonly LedgerEntry[],
  ): void {
    context.font = '500 11px "IBM Plex Mono", monospace';
    for (const entry of inOrder(scene, entries))
      if (!isDrafted(scene, entry)) drawMark(context, sprites, scene, entry);
  }

  /** Draws the marks of a part of the screen, and nothing beyond it. */
  function drawPart(context: CanvasRenderingContext2D, scene: MarkScene, box: Box): void {
    const { left, top, right, bottom } = box;
    context.save();
    context.beginPath();
    context.rect(left, top, right - left, bottom - top);
    context.clip();
    const room = TAG_ROOM.width;
    drawAll(context, scene, scene.within(left - room, top - room, right + room, bottom + room));
    context.restore();
  }

  /** Brings what rests up to date: all of it, or what changed of it. */
  function keepResting(scene: MarkScene, ratio: number): void {
    const before = last;
    last = { scene, ratio };
    const changed =
      before?.ratio === ratio && isSeenAlike(before.scene, scene) ? changedMarks(before.scene, scene) : null;
    const context = canvas.getContext('2d');
    if (!before || !changed || !context || changed.length > FEW) return paintResting(scene, ratio);
    const atRest = { ...scene, pointer: null, hovered: null };
    for (const entry of changed) {
      const box = around([boxOf(before.scene, entry), boxOf(scene, entry)]);
      context.clearRect(box.left, box.top, box.right - box.left, box.bottom - box.top);
      drawPart(context, atRest, box);
    }
  }

  function paintResting(scene: MarkScene, ratio: number): void {
    const { width, height } = scene.table;
    const [wide, high] = [Math.max(1, Math.round(width * ratio)), Math.max(1, Math.round(height * ratio))];
    // A canvas of another size is another canvas, even where it has the same size again.
    if (canvas.width !== wide || canvas.height !== high) [canvas.width, canvas.height] = [wide, high];
    const context = canvas.getContext('2d');
    if (!context) return;
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    context.clearRect(0, 0, width, height);
    drawAll(context, { ...scene, pointer: null, hovered: null }, scene.within(0, 0, width, height));
  }

  /** What rests, but for a part of the screen that is drawn anew with what fades there. */
  function drawAround(context: CanvasRenderingContext2D, scene: MarkScene, box: Box): void {
    const { left, top, right, bottom } = box;
    context.save();
    context.beginPath();
    context.rect(0, 0, scene.table.width, scene.table.height);
    context.rect(left, top, right - left, bottom - top);
    context.clip('evenodd');
    drawResting(context);
    context.restore();
    drawPart(context, scene, box);
  }

  function drawResting(context: CanvasRenderingContext2D): void {
    const ratio = last?.ratio ?? 1;
    context.drawImage(canvas, 0, 0, canvas.width / ratio, canvas.height / ratio);
  }

  return {
    draw(context, scene) {
      const ratio = context.getTransform().a;
      sprites.setRatio(ratio);
      keepResting(scene, ratio);
      const faded = fadedMarks(scene);
      if (faded.length > 0) drawAround(context, scene, around(faded.map((entry) => boxOf(scene, entry))));
      else drawResting(context);
      context.font = '500 11px "IBM Plex Mono", monospace';
      if (scene.drafted || scene.hovered !== null)
        for (const entry of scene.shown)
          if (isDrafted(scene, entry) || (entry.id === scene.hovered && !faded.includes(entry)))
            drawMark(context, sprites, scene, entry);
      drawFocus(context, scene);
    },
  };
}
