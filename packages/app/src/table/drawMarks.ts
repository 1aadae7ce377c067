import type { CutEdge, Mend, PaintStroke, Point, Shift, Target, Warp } from '@fennip/core';
import { faultTarget, isTreatment, pulledCorners, sourceOf, targetMiddle } from '@fennip/core';
import type { Pending } from '../hand/pending.ts';
import { distanceToPath, isInside } from '../hand/entriesUnder.ts';
import type { OfferedGuide } from '../stores/guides.ts';
import type { LedgerEntry } from '@fennip/core';
import type { Glass } from './drawTarget.ts';
import { corners, strokeTwice, tracePoints, traceTarget } from './drawTarget.ts';
import { toPicture, toScreen } from './viewport.ts';

/** Colours of the marks, taken from the theme. */
export interface MarkColours {
  readonly open: string;
  readonly mended: string;
  readonly chosen: string;
}

export interface MarkScene extends Glass {
  /** The entries in sight. */
  readonly entries: readonly LedgerEntry[];
  /** Whether there is room for their numbers. */
  readonly withTags: boolean;
  readonly chosen: ReadonlySet<string>;
  readonly focus: LedgerEntry | null;
  readonly hovered: string | null;
  /** The edges that run into the area in focus. */
  readonly cutEdges: readonly CutEdge[];
  /** The edges that are led through the loss in focus, or could be. */
  readonly guides: readonly OfferedGuide[];
  /** A mend while it is changed by hand: drawn instead of the one with its id. */
  readonly drafted: Mend | null;
  /** Where the pointer is on the screen; marks near it fade. */
  readonly pointer: readonly [number, number] | null;
  readonly colours: MarkColours;
}

const FADE_NEAR = 18;
const FADE_FAR = 60;

/** Half the side of a mark on the screen: it stands clear of the fault and never gets too small to see. */
const markHalf = (r: number, scale: number, isChosen: boolean): number =>
  Math.max(5, r * 1.3 * scale + 3) + (isChosen ? 4 : 0);

function fadeAt(x: number, y: number, half: number, pointer: MarkScene['pointer']): number {
  if (!pointer) return 1;
  const distance = Math.hypot(pointer[0] - x, pointer[1] - y) - half;
  return Math.min(1, Math.max(0.25, (distance - FADE_NEAR) / (FADE_FAR - FADE_NEAR)));
}

const isMended = ({ state }: LedgerEntry): boolean => state === 'mended' || state === 'lessened';

function colourOf(entry: LedgerEntry, isChosen: boolean, colours: MarkColours): string {
  if (isChosen) return colours.chosen;
  return isMended(entry) ? colours.mended : colours.open;
}

function drawTag(
  context: CanvasRenderingContext2D,
  text: string,
  x: number,
  y: number,
  colour: string,
): void {
  const width = context.measureText(text).width + 8;
  context.fillStyle = 'rgba(24, 24, 24, 0.82)';
  context.fillRect(x, y - 15, width, 15);
  context.fillStyle = colour;
  context.fillText(text, x + 4, y - 4);
}

/** The mend of an entry as it is shown: a draft stands for the one it changes. */
const shownMend = ({ mend }: LedgerEntry, { drafted }: MarkScene): Mend | null =>
  drafted && mend?.id === drafted.id ? drafted : mend;

/** What an entry's mark is drawn around: a fault where it was found, a mend by hand where it lies now. */
function shownTarget(entry: LedgerEntry, scene: MarkScene): Target {
  const mend = shownMend(entry, scene);
  const isMoved = mend !== null && mend === scene.drafted;
  if (mend && (isMoved || entry.polarity === null || mend.target.shape === 'stroke')) return mend.target;
  return faultTarget(entry);
}

/** Where a mark's tag hangs on the screen: beside a spot, at the first point of a line or an outline. */
function tagPlace(
  scene: MarkScene,
  target: Target,
  { x, y, r }: LedgerEntry,
  shift: Shift,
): [number, number] {
  if (target.shape === 'stroke' || target.shape === 'outline') {
    const [px, py] = target.points[0];
    const [sx, sy] = toScreen(scene.view, scene.table, px + shift.dx, py + shift.dy);
    return [sx + 8, sy + 2];
  }
  const at = target.shape === 'disc' ? target : { x, y, r };
  const half = markHalf(at.r, scene.view.scale, false);
  const [sx, sy] = toScreen(scene.view, scene.table, at.x + shift.dx, at.y + shift.dy);
  return [sx + half + 2, sy - half + 6];
}

function drawMark(context: CanvasRenderingContext2D, scene: MarkScene, entry: LedgerEntry): void {
  const [x, y] = toScreen(scene.view, scene.table, entry.x, entry.y);
  const isChosen = scene.chosen.has(entry.id);
  const half = markHalf(entry.r, scene.view.scale, isChosen);
  const colour = colourOf(entry, isChosen, scene.colours);
  const isNamed = entry === scene.focus || entry.id === scene.hovered;
  context.globalAlpha = isNamed ? 1 : fadeAt(x, y, half, scene.pointer);
  if (entry.state === 'dismissed' || entry.state === 'set aside' || entry.mend?.on === false)
    context.globalAlpha *= 0.45;
  const target = shownTarget(entry, scene);
  traceTarget(context, scene, target, { room: isChosen ? 4 : 0 });
  strokeTwice(context, colour, isChosen ? 2 : 1.25);
  if (scene.withTags || isNamed)
    drawTag(
      context,
      `${entry.number}${isMended(entry) ? ' ✓' : ''}`,
      ...tagPlace(scene, target, entry, { dx: 0, dy: 0 }),
      colour,
    );
  context.globalAlpha = 1;
}

/** Room that a tag takes on the screen, in pixels. */
const TAG_ROOM = { width: 46, height: 16 };

/** The source of the chosen mend: the same shape in dashes, with the same number. */
function drawSource(context: CanvasRenderingContext2D, scene: MarkScene, entry: LedgerEntry): void {
  const mend = shownMend(entry, scene);
  const source = mend && sourceOf(mend);
  if (!source) return;
  const { target } = mend;
  context.setLineDash([3, 3]);
  traceTarget(context, scene, target, { room: 4, shift: source });
  strokeTwice(context, scene.colours.chosen, 1.25);
  const here = shownTarget(entry, scene);
  const [dx, dy] = here.shape === 'disc' ? [here.x - entry.x, here.y - entry.y] : [0, 0];
  const [x, y] = toScreen(scene.view, scene.table, entry.x + dx, entry.y + dy);
  const [sx, sy] = toScreen(scene.view, scene.table, entry.x + dx + source.dx, entry.y + dy + source.dy);
  // The thread is there only while one of the two is hovered or moved.
  if (scene.hovered === entry.id || mend === scene.drafted) {
    context.beginPath();
    context.moveTo(x, y);
    context.lineTo(sx, sy);
    strokeTwice(context, scene.colours.chosen, 0.75);
  }
  if (source.warp) drawPulled(context, scene, target, source.warp);
  context.setLineDash([]);
  const own = tagPlace(scene, here, entry, { dx: 0, dy: 0 });
  const tag = tagPlace(scene, target, entry, source);
  // Where it would lie on the mark's own tag the dashes say enough.
  if (Math.abs(tag[0] - own[0]) > TAG_ROOM.width || Math.abs(tag[1] - own[1]) > TAG_ROOM.height)
    drawTag(context, `${entry.number}`, ...tag, scene.colours.chosen);
}

/** How far a picture is held against itself: from where it is covered to where that is taken from. */
function drawVector(context: CanvasRenderingContext2D, scene: MarkScene, entry: LedgerEntry): void {
  const mend = shownMend(entry, scene);
  if (mend?.method !== 'shift') return;
  const { x, y } = entry;
  const from = toScreen(scene.view, scene.table, x, y);
  const to = toScreen(scene.view, scene.table, x + mend.dx, y + mend.dy);
  context.beginPath();
  context.moveTo(...from);
  context.lineTo(...to);
  strokeTwice(context, scene.colours.chosen, 1.25);
  for (const [place, half] of [
    [from, 2],
    [to, 4],
  ] as const) {
    context.beginPath();
    context.arc(...place, half, 0, 2 * Math.PI);
    strokeTwice(context, scene.colours.chosen, 1.25);
  }
}

/** The points of the chosen line or outline, to be taken hold of. */
function drawHandles(context: CanvasRenderingContext2D, scene: MarkScene, entry: LedgerEntry): void {
  const target = shownMend(entry, scene)?.target;
  if (target?.shape !== 'stroke' && target?.shape !== 'outline') return;
  drawPoints(context, scene, target.points);
}

function drawPoints(context: CanvasRenderingContext2D, scene: MarkScene, points: readonly Point[]): void {
  for (const [x, y] of points) {
    const [sx, sy] = toScreen(scene.view, scene.table, x, y);
    context.fillStyle = 'rgba(0, 0, 0, 0.65)';
    context.fillRect(sx - 3, sy - 3, 6, 6);
    context.fillStyle = scene.colours.chosen;
    context.fillRect(sx - 2, sy - 2, 4, 4);
  }
}

/** The copied piece as it is pulled at its corners. */
function drawPulled(context: CanvasRenderingContext2D, scene: MarkScene, target: Target, warp: Warp): void {
  const [x, y] = targetMiddle(target);
  const corners = pulledCorners(warp).map(([px, py]): Point => [x + px, y + py]);
  tracePoints(context, scene, [...corners, corners[0]], { dx: 0, dy: 0 });
  strokeTwice(context, scene.colours.chosen, 1);
}

/** Half the length of the tick that shows an edge running into an area, in screen pixels. */
const TICK = 7;

/** The guides of the rebuild in focus: edges as they are led through its loss, and, thinner, those that could be. */
function drawGuides(context: CanvasRenderingContext2D, scene: MarkScene): void {
  for (const { guide, letter, isTaken } of scene.guides) {
    const { points } = guide;
    context.setLineDash(isTaken ? [10, 3, 2, 3] : [2, 5]);
    tracePoints(context, scene, points, { dx: 0, dy: 0 });
    strokeTwice(context, scene.colours.chosen, isTaken ? 1.5 : 1);
    context.setLineDash([]);
    const [x, y] = toScreen(scene.view, scene.table, ...points[points.length - 1]);
    drawTag(context, letter, x, y, isTaken ? scene.colours.chosen : scene.colours.open);
  }
}

/** What alone the rebuild in focus may take from. */
function drawFrom(context: CanvasRenderingContext2D, scene: MarkScene, mend: Mend | null): void {
  if (mend?.method !== 'rebuild' || !mend.from) return;
  context.setLineDash([3, 3]);
  traceTarget(context, scene, mend.from, { room: 0 });
  strokeTwice(context, scene.colours.chosen, 1);
  context.setLineDash([]);
}

/** Short ticks across the border of the area in focus: there an edge of the subject runs into it. */
function drawCutEdges(context: CanvasRenderingContext2D, scene: MarkScene): void {
  for (const { x, y, angle } of scene.cutEdges) {
    const [sx, sy] = toScreen(scene.view, scene.table, x, y);
    const [dx, dy] = [TICK * Math.cos(angle), TICK * Math.sin(angle)];
    context.beginPath();
    context.moveTo(sx - dx, sy - dy);
    context.lineTo(sx + dx, sy + dy);
    strokeTwice(context, scene.colours.chosen, 1.5);
  }
}

/** The strokes a treatment was painted with, those that take away in dashes. */
function drawPaint(context: CanvasRenderingContext2D, scene: MarkScene, paint: readonly PaintStroke[]): void {
  for (const { shape, lays } of paint) {
    context.setLineDash(lays === 'in' ? [] : [3, 3]);
    traceTarget(context, scene, shape, { room: 0 });
    strokeTwice(context, scene.colours.chosen, 1);
  }
  context.setLineDash([]);
  for (const { shape } of paint)
    if (shape.shape === 'stroke' || shape.shape === 'outline') drawPoints(context, scene, shape.points);
}

/** Draws the marks of what is in sight; chosen ones last, on top of the others. */
export function drawMarks(context: CanvasRenderingContext2D, scene: MarkScene): void {
  context.font = '500 11px "IBM Plex Mono", monospace';
  for (const entry of scene.entries) if (!scene.chosen.has(entry.id)) drawMark(context, scene, entry);
  for (const entry of scene.entries) if (scene.chosen.has(entry.id)) drawMark(context, scene, entry);
  if (!scene.focus) return;
  const mend = shownMend(scene.focus, scene);
  if (mend?.paint) drawPaint(context, scene, mend.paint);
  if (mend && isTreatment(mend)) return;
  drawCutEdges(context, scene);
  drawGuides(context, scene);
  drawFrom(context, scene, mend);
  drawSource(context, scene, scene.focus);
  drawVector(context, scene, scene.focus);
  drawHandles(context, scene, scene.focus);
}

/** What is being drawn: the course of the pen with its width at the end, a border, or a frame around marks. */
export function drawPending(
  context: CanvasRenderingContext2D,
  glass: Glass,
  pending: Pending,
  colour: string,
): void {
  switch (pending.kind) {
    case 'pen': {
      tracePoints(
        context,
        glass,
        pending.points.map(({ x, y }) => [x, y]),
        { dx: 0, dy: 0 },
      );
      strokeTwice(context, colour, 1.25);
      const end = pending.points[pending.points.length - 1];
      drawBrush(
        context,
        ...toScreen(glass.view, glass.table, end.x, end.y),
        pending.radius * glass.view.scale,
        colour,
      );
      return;
    }
    case 'course':
    case 'outline': {
      tracePoints(
        context,
        glass,
        pending.points.map(({ x, y }) => [x, y]),
        { dx: 0, dy: 0 },
      );
      strokeTwice(context, colour, 1.25);
      const [first] = pending.points;
      corners(context, ...toScreen(glass.view, glass.table, first.x, first.y), 5, 4);
      strokeTwice(context, colour, 1.25);
      return;
    }
    case 'frame': {
      const [left, top] = toScreen(glass.view, glass.table, pending.from.x, pending.from.y);
      const [right, bottom] = toScreen(glass.view, glass.table, pending.to.x, pending.to.y);
      context.beginPath();
      context.rect(left, top, right - left, bottom - top);
      strokeTwice(context, colour, 1);
    }
  }
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

/** The border of an area is caught this far away, in screen pixels. */
const BORDER_SLOP = 8;

/** A fault with an outline is caught by all of its inside; what is only drawn over a part of the picture is not. */
const holdsInside = ({ outline, mend }: LedgerEntry, x: number, y: number): boolean => {
  if (!outline || (mend && isTreatment(mend))) return false;
  return isInside(x, y, outline);
};

/** The smallest mark under a point of the screen, among those near it. */
export function entryAt(
  { view, table }: Glass,
  near: readonly LedgerEntry[],
  sx: number,
  sy: number,
): LedgerEntry | null {
  let best: LedgerEntry | null = null;
  for (const entry of near) {
    if (best && entry.r >= best.r) continue;
    const half = markHalf(entry.r, view.scale, false) + 2;
    const course = entry.path ?? entry.outline;
    if (course) {
      const [x, y] = toPicture(view, table, sx, sy);
      const slop = entry.path ? half : BORDER_SLOP;
      const away = distanceToPath(x, y, entry.path ?? [...course, course[0]]) * view.scale;
      if (away <= slop || holdsInside(entry, x, y)) best = entry;
      continue;
    }
    const [x, y] = toScreen(view, table, entry.x, entry.y);
    if (Math.abs(sx - x) <= half && Math.abs(sy - y) <= half) best = entry;
  }
  return best;
}

/** How far beyond its own place a mark may reach, in screen pixels. */
export const MARK_ROOM = 16;
