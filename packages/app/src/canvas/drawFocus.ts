import type { Mend, PaintStroke } from '@fennip/core/mend';
import type { Warp } from '@fennip/core/source';
import type { Point, Target } from '@fennip/core/target';
import { isTreatment, sourceOf } from '@fennip/core/mend';
import { pulledCorners } from '@fennip/core/source';
import { targetMiddle } from '@fennip/core/target';
import type { LedgerEntry } from '@fennip/core/ledger';
import type { MarkScene } from './drawMark.ts';
import { drawTag, shownMend, shownTarget, tagPlace } from './drawMark.ts';
import { strokeTwice, tracePoints, traceTarget } from './drawTarget.ts';
import { toScreen } from './viewport.ts';

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

/** Handles nearer to the last one than this would hide the line that they lie on, in screen pixels. */
const LEAST_APART = 9;

function drawPoints(context: CanvasRenderingContext2D, scene: MarkScene, points: readonly Point[]): void {
  let last: readonly [number, number] | null = null;
  for (const [x, y] of points) {
    const [sx, sy] = toScreen(scene.view, scene.table, x, y);
    if (last && Math.hypot(sx - last[0], sy - last[1]) < LEAST_APART) continue;
    last = [sx, sy];
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

/** Draws what belongs to the entry in focus alone: its source, its handles, the edges around it. */
export function drawFocus(context: CanvasRenderingContext2D, scene: MarkScene): void {
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
