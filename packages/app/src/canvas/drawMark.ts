import type { CutEdge } from '@fennip/core/examine';
import type { Mend } from '@fennip/core/mend';
import type { Shift } from '@fennip/core/source';
import type { Point, Target } from '@fennip/core/target';
import { faultTarget } from '@fennip/core/mend';
import type { LedgerEntry } from '@fennip/core/ledger';
import type { OfferedGuide } from '../stores/guides.ts';
import type { Glass } from './drawTarget.ts';
import { UNDER_LINE, markHalf, strokeTwice, traceTarget } from './drawTarget.ts';
import type { MarkSprites } from './markSprites.ts';
import { toScreen } from './viewport.ts';

/** Colours of the marks, taken from the theme. */
export interface MarkColours {
  readonly open: string;
  readonly mended: string;
  readonly chosen: string;
}

export interface MarkScene extends Glass {
  /** All entries that are marked. */
  readonly shown: readonly LedgerEntry[];
  /** Those of them whose marks meet a rectangle of the screen. */
  readonly within: (left: number, top: number, right: number, bottom: number) => readonly LedgerEntry[];
  /** True if there is room for their numbers. */
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

/** Marks fade from here on towards the pointer, and most from there, in screen pixels. */
export const FADE_FAR = 60;
const FADE_NEAR = 18;
/** What is left of a mark under the pointer. */
const LEAST_SEEN = 0.25;

function fadeAt(x: number, y: number, half: number, pointer: Point): number {
  const distance = Math.hypot(pointer[0] - x, pointer[1] - y) - half;
  return Math.min(1, Math.max(LEAST_SEEN, (distance - FADE_NEAR) / (FADE_FAR - FADE_NEAR)));
}

/** A colour that fades towards the pointer as marks of spots do: a line is long, and seen where it is not in the way. */
function fadingColour(context: CanvasRenderingContext2D, [x, y]: Point, colour: string): CanvasGradient {
  const gradient = context.createRadialGradient(x, y, 0, x, y, FADE_FAR);
  const least = `color-mix(in srgb, ${colour} ${100 * LEAST_SEEN}%, transparent)`;
  gradient.addColorStop((FADE_NEAR + LEAST_SEEN * (FADE_FAR - FADE_NEAR)) / FADE_FAR, least);
  gradient.addColorStop(1, colour);
  return gradient;
}

const isMended = ({ state }: LedgerEntry): boolean => state === 'mended' || state === 'lessened';

function colourOf(entry: LedgerEntry, isChosen: boolean, colours: MarkColours): string {
  if (isChosen) return colours.chosen;
  return isMended(entry) ? colours.mended : colours.open;
}

export function drawTag(
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

/** True if an entry is shown as its mend is being changed, not as it rests. */
export const isDrafted = ({ drafted }: MarkScene, { mend }: LedgerEntry): boolean =>
  drafted !== null && mend?.id === drafted.id;

/** The mend of an entry as it is shown: a draft stands for the one it changes. */
export const shownMend = ({ mend }: LedgerEntry, { drafted }: MarkScene): Mend | null =>
  drafted && mend?.id === drafted.id ? drafted : mend;

/** What an entry's mark is drawn around: a fault where it was found, a mend by hand where it lies now. */
export function shownTarget(entry: LedgerEntry, scene: MarkScene): Target {
  const mend = shownMend(entry, scene);
  const isMoved = mend !== null && mend === scene.drafted;
  if (mend && (isMoved || entry.polarity === null || mend.target.shape === 'stroke')) return mend.target;
  return faultTarget(entry);
}

/** Whether a mark is a line along what it marks, and not ticks or a frame around it. */
export const isLine = ({ shape }: Target): boolean => shape === 'stroke' || shape === 'outline';

/** Where a mark's tag hangs on the screen: beside a spot, at the first point of a line or an outline. */
export function tagPlace(
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
  const half = markHalf(at.r, scene.view.scale);
  const [sx, sy] = toScreen(scene.view, scene.table, at.x + shift.dx, at.y + shift.dy);
  return [sx + half + 2, sy - half + 6];
}

/** How far a chosen mark stands off the others, in screen pixels. */
const CHOSEN_ROOM = 4;

/** True if an entry is the one that is looked at. */
export const isNamed = (scene: MarkScene, entry: LedgerEntry): boolean =>
  entry === scene.focus || entry.id === scene.hovered;

/** How clearly the mark around a spot or an area is drawn, 0 to 1; a line fades along its course. */
export function fadeOf(scene: MarkScene, entry: LedgerEntry): number {
  if (!scene.pointer || isNamed(scene, entry) || isLine(shownTarget(entry, scene))) return 1;
  const [x, y] = toScreen(scene.view, scene.table, entry.x, entry.y);
  const room = scene.chosen.has(entry.id) ? CHOSEN_ROOM : 0;
  return fadeAt(x, y, markHalf(entry.r, scene.view.scale, room), scene.pointer);
}

const isAway = ({ state, mend }: LedgerEntry): boolean =>
  state === 'dismissed' || state === 'set aside' || mend?.on === false;

/** True if an entry's number stands beside its mark: where there is room, and for the one that is looked at. */
export const hasNumber = (scene: MarkScene, entry: LedgerEntry): boolean =>
  scene.withTags || isNamed(scene, entry);

/** How clearly the number of a line is drawn: it may hang far from where the pointer is. */
const tagFade = (scene: MarkScene, entry: LedgerEntry, [x, y]: Point): number =>
  scene.pointer && !isNamed(scene, entry) ? fadeAt(x, y, 0, scene.pointer) : 1;

/** Draws the mark of one entry, with its number where there is room for it. */
export function drawMark(
  context: CanvasRenderingContext2D,
  sprites: MarkSprites,
  scene: MarkScene,
  entry: LedgerEntry,
): void {
  const isChosen = scene.chosen.has(entry.id);
  const colour = colourOf(entry, isChosen, scene.colours);
  const clear = isAway(entry) ? 0.45 : 1;
  context.globalAlpha = fadeOf(scene, entry) * clear;
  const target = shownTarget(entry, scene);
  const [room, width] = isChosen ? [CHOSEN_ROOM, 2] : [0, 1.25];
  const spot = target.shape === 'disc' ? toScreen(scene.view, scene.table, target.x, target.y) : null;
  const half = target.shape === 'disc' ? markHalf(target.r, scene.view.scale, room) : 0;
  if (!spot || !sprites.draw(context, ...spot, { half, colour, width })) {
    traceTarget(context, scene, target, { room });
    const { pointer } = scene;
    if (pointer && isLine(target) && !isNamed(scene, entry)) {
      const [over, under] = [colour, UNDER_LINE].map((one) => fadingColour(context, pointer, one));
      strokeTwice(context, over, width, under);
    } else strokeTwice(context, colour, width);
  }
  if (hasNumber(scene, entry)) {
    const place = tagPlace(scene, target, entry, { dx: 0, dy: 0 });
    if (isLine(target)) context.globalAlpha = clear * tagFade(scene, entry, place);
    drawTag(context, `${entry.number}${isMended(entry) ? ' ✓' : ''}`, ...place, colour);
  }
  context.globalAlpha = 1;
}
