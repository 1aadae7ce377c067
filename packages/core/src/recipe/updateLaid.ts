import type { Fence } from '../fence/fence.ts';
import { mendFootprint, mendReads } from '../mend/applyMend.ts';
import type { Canvas } from '../mend/canvas.ts';
import type { Mend } from '../mend/mend.ts';
import { isTreatment } from '../mend/mend.ts';
import type { SpotMend } from '../mend/spotMend.ts';
import { treatmentFootprint, treatmentReach } from '../mend/treat/applyTreatment.ts';
import type { Treatment } from '../mend/treat/treatment.ts';
import type { Pixels } from '../raster/pixels.ts';
import type { PictureShape } from '../raster/raster.ts';
import type { Rect } from '../raster/rect.ts';
import { growRect, intersectRects, isEmpty, rectsMeet } from '../raster/rect.ts';
import { changedGuards, changedZones } from './changedFences.ts';
import type { RebuildElsewhere, Underway } from './elsewhere.ts';
import { isSameWork } from './elsewhere.ts';
import { isSameDocument } from './isSameDocument.ts';
import type { Laid } from './laid.ts';
import { isLaidTreatment } from './laid.ts';
import type { LaidPatch } from './laidPatch.ts';
import { keepPatch } from './laidPatch.ts';
import { layTreatment } from './laidTreatment.ts';
import { patchBy, patchOf } from './patchOfMend.ts';
import type { PatchMemory } from './patchMemory.ts';
import { piecesOn } from './pieces.ts';
import { meeting, needsUnder, pixelsWith } from './pixelsWith.ts';
import type { RebuildsUnderway } from './rebuildsUnderway.ts';
import type { Recipe } from './recipe.ts';

/** What lies on a picture; it changes while it is updated. */
export interface LaidState {
  laid: readonly Laid[];
  fences: readonly Fence[];
}

/** Who takes part in an update. */
export interface UpdateWork {
  /** Awaited with the rectangles a mend looks at, before it is worked out. */
  readonly ready: (reads: readonly Rect[]) => Promise<void>;
  /** Called with each rectangle whose pixels changed, as soon as they have. */
  readonly changed: (rect: Rect) => void;
  readonly elsewhere: RebuildElsewhere | undefined;
  readonly memory: PatchMemory | undefined;
  readonly underway: RebuildsUnderway;
}

/** Where a mend lay before an update, and whether what it sees may still be the same. */
interface Stood {
  readonly laid: Laid | undefined;
  /** It comes after all that it came after before. */
  readonly inOrder: boolean;
  readonly isZoneSame: boolean;
}

/**
 * Where a treatment looks different because places under it changed. Where a fence keeps something, what lies beside it
 * stands in for it in all of a piece.
 */
function seenFrom(
  mend: Treatment,
  changed: readonly Rect[],
  fences: readonly Fence[],
  picture: PictureShape,
): Rect[] {
  const footprint = treatmentFootprint(mend, picture);
  const seen = changed.map((rect) => intersectRects(growRect(rect, treatmentReach(mend)), footprint));
  const places = fences.length > 0 ? seen.flatMap(piecesOn) : seen;
  return places.map((rect) => intersectRects(rect, footprint)).filter((rect) => !isEmpty(rect));
}

/** One update: takes over mend after mend, in their order. */
class Update {
  readonly #state: LaidState;
  readonly #base: Pixels;
  readonly #work: UpdateWork;
  readonly #laying: readonly Mend[];
  readonly #before: ReadonlyMap<string, { readonly laid: Laid; readonly index: number }>;
  readonly #next: Laid[] = [];
  readonly #done = new Set<string>();
  /** Where pixels are another than before, or lie under another guard. */
  readonly #dirty: Rect[] = [];
  readonly #refenced: readonly Rect[];
  readonly #rezoned: ReadonlySet<string>;
  readonly #canvas: Canvas;
  /** Of the mends that are done, the farthest place in the old order. */
  #reached = -1;

  constructor(
    state: LaidState,
    base: Pixels,
    laying: readonly Mend[],
    fences: readonly Fence[],
    work: UpdateWork,
  ) {
    this.#state = state;
    this.#base = base;
    this.#work = work;
    this.#laying = laying;
    this.#before = new Map(state.laid.map((laid, index) => [laid.mend.id, { laid, index }]));
    this.#refenced = changedGuards(state.fences, fences);
    this.#rezoned = changedZones(state.fences, fences);
    state.fences = fences;
    this.#canvas = { pixels: this.#pixelsUnder(this.#next), original: base, fences };
  }

  async run(): Promise<void> {
    const removed = this.#takeOff();
    for (const mend of this.#laying) {
      const stood = this.#placeOf(mend);
      this.#done.add(mend.id);
      if (isTreatment(mend)) this.#layTreatment(mend, stood);
      else await this.#laySpot(mend, stood);
    }
    this.#state.laid = this.#next;
    for (const rect of removed) this.#work.changed(rect);
  }

  /** Takes off what is not laid any more. @returns where it lay */
  #takeOff(): readonly Rect[] {
    const wanted = new Set(this.#laying.map(({ id }) => id));
    const removed = this.#state.laid.filter(({ mend }) => !wanted.has(mend.id)).map(({ rect }) => rect);
    this.#dirty.push(...removed);
    this.#state.laid = this.#state.laid.filter(({ mend }) => wanted.has(mend.id));
    this.#work.underway.endOthers(wanted);
    return removed;
  }

  #placeOf(mend: Mend): Stood {
    const stood = this.#before.get(mend.id);
    // One that now comes after a mend it used to come before sees other pixels than it did.
    const inOrder = stood !== undefined && stood.index > this.#reached;
    this.#reached = Math.max(this.#reached, stood?.index ?? -1);
    const isZoneSame = mend.zone === undefined || !this.#rezoned.has(mend.zone);
    return { laid: stood?.laid, inOrder, isZoneSame };
  }

  #pixelsUnder(laid: readonly Laid[]): Pixels {
    return pixelsWith(this.#base, (rect) => meeting(laid, rect));
  }

  /** Shows what is laid by now over what still lies from before. */
  #show(): void {
    const { laid } = this.#state;
    this.#state.laid = [...this.#next, ...laid.filter(({ mend }) => !this.#done.has(mend.id))];
  }

  #layTreatment(mend: Treatment, { laid, inOrder, isZoneSame }: Stood): void {
    const { fences } = this.#canvas;
    const { shape } = this.#base;
    const ground = { ...this.#canvas, pixels: this.#pixelsUnder([...this.#next]) };
    const changed = [...this.#dirty, ...this.#refenced];
    const isKept = inOrder && isZoneSame && laid && isLaidTreatment(laid) && isSameDocument(laid.mend, mend);
    const now = isKept ? laid.over(ground, changed) : layTreatment(mend, ground, shape);
    this.#next.push(now);
    this.#show();
    const other = isKept ? seenFrom(mend, changed, fences, shape) : [...(laid ? [laid.rect] : []), now.rect];
    for (const rect of other) {
      this.#dirty.push(rect);
      this.#work.changed(rect);
    }
  }

  /** The patch of a mend that sees what it saw; none where something it looks at is another. */
  #standing({ laid, inOrder, isZoneSame }: Stood, reads: readonly Rect[]): LaidPatch | null {
    if (!laid || isLaidTreatment(laid) || !inOrder || !isZoneSame) return null;
    const changed = [...this.#dirty, ...this.#refenced];
    return changed.some((rect) => reads.some((read) => rectsMeet(rect, read))) ? null : laid;
  }

  async #laySpot(mend: SpotMend, stood: Stood): Promise<void> {
    const reads = mendReads(mend, this.#base.shape);
    const standing = this.#standing(stood, reads);
    const known = this.#knownRebuild(mend, standing);
    if (standing && isSameDocument(standing.mend, mend) && this.#isFinal(mend, standing, known)) {
      this.#next.push(standing);
      return;
    }
    await this.#work.ready(reads.map((rect) => needsUnder(this.#next, rect)));
    this.#put(await this.#workOut(mend, reads, known), stood.laid);
  }

  #put(laid: LaidPatch, before: Laid | undefined): void {
    const places = [...(before ? [before.rect] : []), laid.rect];
    this.#next.push(laid);
    this.#dirty.push(...places);
    this.#show();
    for (const rect of places) this.#work.changed(rect);
  }

  /** A rebuild that is worked out elsewhere, of the same pixels. */
  #knownRebuild(mend: SpotMend, standing: LaidPatch | null): Underway | undefined {
    if (mend.method !== 'rebuild' || !this.#work.elsewhere || !standing) return undefined;
    const known = this.#work.underway.of(mend.id);
    return known && isSameWork(known.mend, mend) ? known : undefined;
  }

  /** True if nothing newer was brought of a mend than what stands. */
  #isFinal(mend: SpotMend, standing: LaidPatch, known: Underway | undefined): boolean {
    const isElsewhere = mend.method === 'rebuild' && this.#work.elsewhere !== undefined;
    return !isElsewhere || (known !== undefined && standing.answer === known.answers);
  }

  async #workOut(mend: SpotMend, reads: readonly Rect[], known: Underway | undefined): Promise<LaidPatch> {
    const { elsewhere, memory, underway } = this.#work;
    const { fences, pixels } = this.#canvas;
    if (mend.method !== 'rebuild' || !elsewhere) {
      const patch = await patchBy(memory, mend, reads, this.#canvas);
      return keepPatch(mend, patch, pixels.window(patch.rect));
    }
    const task = { mend, fences, window: pixels.window(reads[0]) };
    const made = known ?? (await underway.begin(task, elsewhere, memory));
    const patch = patchOf(mend, made, this.#canvas);
    return { ...keepPatch(mend, patch, pixels.window(patch.rect)), answer: made.answers };
  }
}

/**
 * Takes over a list of mends and fences. Kept are those that are the same and look at nothing that changed; all others are
 * worked out again, in their order.
 *
 * @param base the picture without mends
 */
export function updateLaid(
  state: LaidState,
  base: Pixels,
  { mends, fences = [] }: Pick<Recipe, 'mends' | 'fences'>,
  work: UpdateWork,
): Promise<void> {
  // One that was moved off the picture lays down nothing more, as one that was switched off.
  const laying = mends.filter((mend) => mend.on && !isEmpty(mendFootprint(mend, base.shape)));
  return new Update(state, base, laying, fences, work).run();
}
