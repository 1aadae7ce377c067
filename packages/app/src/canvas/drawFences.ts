import type { Fence } from '@fennip/core/fence';
import type { Rect } from '@fennip/core/raster';
import type { SpanRows } from '@fennip/core/target';
import { areaSpans } from '@fennip/core/fence';
import { rectsMeet } from '@fennip/core/raster';
import type { Glass } from './drawTarget.ts';
import { toPicture, toScreen } from './viewport.ts';

/** What of the fences is shown. */
export interface FenceScene extends Glass {
  readonly fences: readonly Fence[];
  readonly current: string | null;
  /** Hatched while fences are drawn; else only their borders show. */
  readonly isHatched: boolean;
  readonly picture: { readonly width: number; readonly height: number };
  readonly letterOf: (fence: Fence) => string;
}

/** Distance between the lines of a hatch, in screen pixels: sparse enough to judge the picture between them. */
const HATCH = 14;
/** A tag hangs below the bar that lies over the upper end of the table while a fence is drawn. */
const BAR = 40;
/** The dashes of a zone's border. */
const DASH = 7;

const LIGHT = [235, 235, 235, 150] as const;
const DARK = [20, 20, 20, 150] as const;

/** Where a line of the hatch runs: zones lean one way, guards are crossed. */
function isOnHatch(kind: Fence['kind'], x: number, y: number): boolean {
  const rising = (x + y) % HATCH === 0;
  return kind === 'guard' ? rising || (x - y + 100_000 * HATCH) % HATCH === 0 : rising && (x >> 2) % 3 !== 2;
}

/** True if a place of the picture lies in a fence. */
function isInside(spans: SpanRows, x: number, y: number): boolean {
  const row = spans.rows[Math.floor(y) - spans.top];
  if (row === undefined || y < 0) return false;
  let crossed = 0;
  while (crossed < row.length && row[crossed] <= x) crossed++;
  return crossed % 2 === 1;
}

/** The spans of one row of the screen, in screen pixels; empty outside of the picture. */
function screenRow(spans: SpanRows, sy: number, scene: FenceScene): number[] {
  const { view, table } = scene;
  if (view.framing) {
    // A row of the screen runs across rows of the picture: each of its places is asked for itself.
    const ends: number[] = [];
    for (let sx = 0; sx <= table.width; sx++) {
      const [x, y] = toPicture(view, table, sx + 0.5, sy + 0.5);
      if (isInside(spans, x, y) !== (ends.length % 2 === 1)) ends.push(sx);
    }
    return ends.length % 2 === 1 ? [...ends, Math.ceil(table.width)] : ends;
  }
  const [, y] = toPicture(view, table, 0, sy + 0.5);
  const row = spans.rows[Math.floor(y) - spans.top];
  if (row === undefined || y < 0) return [];
  return row.map((x) => Math.round(toScreen(view, table, x, 0)[0]));
}

interface Painter {
  readonly data: Uint8ClampedArray;
  readonly width: number;
  readonly height: number;
}

function dot({ data, width, height }: Painter, x: number, y: number, colour: readonly number[]): void {
  if (x < 0 || y < 0 || x >= width || y >= height) return;
  const at = (y * width + x) * 4;
  for (let c = 0; c < 4; c++) data[at + c] = colour[c];
}

/** Marks what lies in one row and not in the other: there a border runs along the row. */
function alongRow(
  upper: readonly number[],
  lower: readonly number[],
  visit: (from: number, to: number) => void,
): void {
  const ends = [...upper, ...lower].sort((a, b) => a - b);
  for (let k = 0; k + 1 < ends.length; k += 2) if (ends[k + 1] > ends[k]) visit(ends[k], ends[k + 1]);
}

/** Paints one pixel of a border: dashed around a zone, thicker around the current fence. */
function paintBorder(painter: Painter, { kind }: Fence, isCurrent: boolean, x: number, y: number): void {
  if (kind === 'zone' && Math.floor((x + y) / DASH) % 2 === 1) return;
  dot(painter, x, y, LIGHT);
  dot(painter, x + 1, y + 1, DARK);
  if (!isCurrent) return;
  dot(painter, x + 1, y, LIGHT);
  dot(painter, x, y + 1, LIGHT);
}

function paintHatch(painter: Painter, { kind }: Fence, from: number, to: number, y: number): void {
  for (let x = from; x < to; x++) {
    if (!isOnHatch(kind, x, y)) continue;
    dot(painter, x, y, LIGHT);
    dot(painter, x + 1, y, DARK);
  }
}

/** A fence's tag hangs on a span that is at least so wide, in screen pixels. */
const TAG_SPAN = 24;

/** Paints one fence: its border, and its hatch where it is wanted. @returns where its tag hangs */
function paintFence(painter: Painter, scene: FenceScene, fence: Fence): readonly [number, number] | null {
  const spans = areaSpans(fence.area, scene.picture);
  const isHatched = scene.isHatched && fence.on;
  const border = (x: number, y: number): void =>
    paintBorder(painter, fence, fence.id === scene.current, x, y);
  let tag: readonly [number, number] | null = null;
  let before: number[] = [];
  for (let y = 0; y < painter.height; y++) {
    const row = screenRow(spans, y, scene);
    for (let k = 0; k < row.length; k += 2) {
      const [from, to] = [Math.max(0, row[k]), Math.min(painter.width, row[k + 1])];
      if (tag === null && to - from > TAG_SPAN && y >= BAR) tag = [from + 6, y];
      if (row[k] >= 0) border(row[k], y);
      if (row[k + 1] <= painter.width) border(row[k + 1] - 1, y);
      if (isHatched) paintHatch(painter, fence, from, to, y);
    }
    alongRow(before, row, (from, to) => {
      for (let x = Math.max(0, from); x < Math.min(painter.width, to); x++) border(x, y);
    });
    before = row;
  }
  return tag;
}

/** Height of a fence's tag, in screen pixels. */
const TAG_HEIGHT = 18;

/** A layer that is kept until something about it changes: the marks over it are drawn anew much more often. */
export interface FenceLayer {
  draw(context: CanvasRenderingContext2D, scene: FenceScene): void;
}

interface Tag {
  readonly text: string;
  readonly place: readonly [number, number];
}

const isSameScene = (a: FenceScene, b: FenceScene): boolean =>
  a.fences === b.fences &&
  a.current === b.current &&
  a.isHatched === b.isHatched &&
  a.view === b.view &&
  a.table === b.table;

export function createFenceLayer(): FenceLayer {
  const canvas = document.createElement('canvas');
  let last: FenceScene | null = null;
  let tags: Tag[] = [];

  function paint(scene: FenceScene): void {
    const width = Math.max(1, Math.round(scene.table.width));
    const height = Math.max(1, Math.round(scene.table.height));
    canvas.width = width;
    canvas.height = height;
    const context = canvas.getContext('2d');
    if (!context) return;
    const image = context.createImageData(width, height);
    tags = scene.fences.flatMap((fence) => {
      const place = paintFence({ data: image.data, width, height }, scene, fence);
      return place ? [{ text: `${scene.letterOf(fence)} ${fence.name}`, place }] : [];
    });
    context.putImageData(image, 0, 0);
  }

  return {
    draw(context, scene) {
      if (scene.fences.length === 0) return;
      if (last === null || !isSameScene(last, scene)) paint(scene);
      last = scene;
      context.drawImage(canvas, 0, 0, scene.table.width, scene.table.height);
      context.font = '500 12px "Source Sans 3 Variable", sans-serif';
      const laid: Rect[] = [];
      for (const { text, place } of tags) {
        const tag = {
          ...{ left: place[0], top: place[1] + 4 },
          ...{ width: context.measureText(text).width + 10, height: TAG_HEIGHT },
        };
        // Fences that begin at the same corner of the table have their tags below one another.
        while (laid.some((other) => rectsMeet(other, tag))) tag.top += TAG_HEIGHT + 2;
        laid.push(tag);
        context.fillStyle = 'rgba(24, 24, 24, 0.82)';
        context.fillRect(tag.left, tag.top, tag.width, tag.height);
        context.fillStyle = '#efefef';
        context.fillText(text, tag.left + 5, tag.top + 13);
      }
    },
  };
}
