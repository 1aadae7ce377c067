import { sourceOf } from '@fennip/core';
import type { LedgerEntry } from '../stores/ledgerEntry.ts';
import type { Size, Viewport } from './viewport.ts';
import { toScreen } from './viewport.ts';

/** Colours of the marks, taken from the theme. */
export interface MarkColours {
  readonly open: string;
  readonly mended: string;
  readonly chosen: string;
}

export interface MarkScene {
  readonly view: Viewport;
  readonly table: Size;
  readonly picture: Size;
  readonly entries: readonly LedgerEntry[];
  readonly chosen: ReadonlySet<string>;
  readonly focus: string | null;
  readonly hovered: string | null;
  /** Where the pointer is on the screen; marks near it fade. */
  readonly pointer: readonly [number, number] | null;
  readonly colours: MarkColours;
}

/** Tags are drawn when marks stand at least this far apart on average, in screen pixels. */
const TAG_SPACING = 52;
const FADE_NEAR = 18;
const FADE_FAR = 60;

/** Half the side of a mark on the screen: it stands clear of the fault and never gets too small to see. */
const markHalf = (entry: LedgerEntry, scale: number, isChosen: boolean): number =>
  Math.max(5, entry.r * 1.3 * scale + 3) + (isChosen ? 4 : 0);

/** Four corner ticks around a place. */
function corners(context: CanvasRenderingContext2D, x: number, y: number, half: number, tick: number): void {
  context.beginPath();
  for (const [sx, sy] of [
    [-1, -1],
    [1, -1],
    [1, 1],
    [-1, 1],
  ]) {
    context.moveTo(x + sx * half, y + sy * (half - tick));
    context.lineTo(x + sx * half, y + sy * half);
    context.lineTo(x + sx * (half - tick), y + sy * half);
  }
}

/** A line that reads on any ground: dark below, colour above. */
function strokeTwice(context: CanvasRenderingContext2D, colour: string, width: number): void {
  context.lineWidth = width + 2;
  context.strokeStyle = 'rgba(0, 0, 0, 0.65)';
  context.stroke();
  context.lineWidth = width;
  context.strokeStyle = colour;
  context.stroke();
}

function fadeAt(x: number, y: number, half: number, pointer: MarkScene['pointer']): number {
  if (!pointer) return 1;
  const distance = Math.hypot(pointer[0] - x, pointer[1] - y) - half;
  return Math.min(1, Math.max(0.25, (distance - FADE_NEAR) / (FADE_FAR - FADE_NEAR)));
}

function colourOf(entry: LedgerEntry, isChosen: boolean, colours: MarkColours): string {
  if (isChosen) return colours.chosen;
  return entry.state === 'mended' || entry.state === 'lessened' ? colours.mended : colours.open;
}

function drawTag(
  context: CanvasRenderingContext2D,
  entry: LedgerEntry,
  x: number,
  y: number,
  colour: string,
): void {
  const isMended = entry.state === 'mended' || entry.state === 'lessened';
  const text = `${entry.number}${isMended ? ' ✓' : ''}`;
  const width = context.measureText(text).width + 8;
  context.fillStyle = 'rgba(24, 24, 24, 0.82)';
  context.fillRect(x, y - 15, width, 15);
  context.fillStyle = colour;
  context.fillText(text, x + 4, y - 4);
}

function drawMark(
  context: CanvasRenderingContext2D,
  scene: MarkScene,
  entry: LedgerEntry,
  withTag: boolean,
): void {
  const [x, y] = toScreen(scene.view, scene.table, entry.x, entry.y);
  const isChosen = scene.chosen.has(entry.id);
  const half = markHalf(entry, scene.view.scale, isChosen);
  if (x < -half || y < -half || x > scene.table.width + half || y > scene.table.height + half) return;
  const colour = colourOf(entry, isChosen, scene.colours);
  const isNamed = entry.id === scene.focus || entry.id === scene.hovered;
  context.globalAlpha = isNamed ? 1 : fadeAt(x, y, half, scene.pointer);
  if (entry.state === 'dismissed' || entry.state === 'set aside') context.globalAlpha *= 0.45;
  corners(context, x, y, half, Math.max(3, Math.min(9, half * 0.45)));
  strokeTwice(context, colour, isChosen ? 2 : 1.25);
  if (withTag || isNamed) drawTag(context, entry, x + half + 2, y - half + 6, colour);
  context.globalAlpha = 1;
}

/** The source of a mend: the same shape in dashes, with the same number, and a thread while it is hovered. */
function drawSource(context: CanvasRenderingContext2D, scene: MarkScene, entry: LedgerEntry): void {
  const source = entry.mend ? sourceOf(entry.mend) : null;
  if (!source) return;
  const [x, y] = toScreen(scene.view, scene.table, entry.x, entry.y);
  const [sx, sy] = toScreen(scene.view, scene.table, entry.x + source.dx, entry.y + source.dy);
  const half = markHalf(entry, scene.view.scale, true);
  context.setLineDash([3, 3]);
  corners(context, sx, sy, half, half * 0.8);
  strokeTwice(context, scene.colours.chosen, 1.25);
  if (scene.hovered === entry.id) {
    context.beginPath();
    context.moveTo(x, y);
    context.lineTo(sx, sy);
    strokeTwice(context, scene.colours.chosen, 0.75);
  }
  context.setLineDash([]);
  drawTag(context, { ...entry, state: 'open' }, sx + half + 2, sy - half + 6, scene.colours.chosen);
}

/** Draws the marks of what is in sight; chosen ones last, on top of the others. */
export function drawMarks(context: CanvasRenderingContext2D, scene: MarkScene): void {
  context.clearRect(0, 0, scene.table.width, scene.table.height);
  context.font = '500 11px "IBM Plex Mono", monospace';
  const { table, picture, view } = scene;
  const area = Math.min(table.width * table.height, picture.width * picture.height * view.scale ** 2);
  const withTags = Math.sqrt(area / Math.max(1, scene.entries.length)) > TAG_SPACING;
  for (const entry of scene.entries)
    if (!scene.chosen.has(entry.id)) drawMark(context, scene, entry, withTags);
  for (const entry of scene.entries)
    if (scene.chosen.has(entry.id)) drawMark(context, scene, entry, withTags);
  const focus = scene.entries.find(({ id }) => id === scene.focus);
  if (focus) drawSource(context, scene, focus);
}

/** The mark of the mend to come, under the pointer. */
export function drawBrush(
  context: CanvasRenderingContext2D,
  x: number,
  y: number,
  half: number,
  colour: string,
): void {
  corners(context, x, y, Math.max(3, half), Math.max(2, half * 0.4));
  strokeTwice(context, colour, 1.5);
}

/** The smallest mark under a point of the screen. */
export function entryAt(
  view: Viewport,
  table: Size,
  entries: readonly LedgerEntry[],
  sx: number,
  sy: number,
): LedgerEntry | null {
  let best: LedgerEntry | null = null;
  for (const entry of entries) {
    const [x, y] = toScreen(view, table, entry.x, entry.y);
    const half = markHalf(entry, view.scale, false) + 2;
    if (Math.abs(sx - x) <= half && Math.abs(sy - y) <= half && (!best || entry.r < best.r)) best = entry;
  }
  return best;
}
