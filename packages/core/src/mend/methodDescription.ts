import type { FieldsOf } from '../describe/field.ts';
import type { Mistake } from '../describe/mistake.ts';
import type { Patch } from '../raster/patch.ts';
import type { Pixels } from '../raster/pixels.ts';
import type { PictureShape } from '../raster/raster.ts';
import type { Rect } from '../raster/rect.ts';
import type { Place } from '../source/occupied.ts';
import type { Shift, Source } from '../source/source.ts';
import type { Reach } from '../target/targetField.ts';
import type { Veil } from '../veil/veil.ts';
import type { Canvas } from './canvas.ts';
import type { MendBase } from './mendBase.ts';
import type { StartingMark } from './startingMark.ts';

/** What is known when a new mend is laid out. */
export interface NewMend {
  readonly base: MendBase;
  /** The shadow or light that was fitted to the place, and how far it reaches; null where there is none. */
  readonly veil: { readonly veil: Veil; readonly reach: Reach } | null;
  /** The best source, with its edges fitted; null where none fits. */
  readonly source: Source | null;
  /** Open faults. */
  readonly avoid: readonly Place[];
  readonly pixels: Pixels;
}

/** All that is known of a method: what it does, what it reads and may change, how it is moved, its fields. */
export interface MethodDescription<M extends MendBase & { readonly method: string }> {
  readonly name: M['method'];
  /** In one phrase, for documents. */
  readonly does: string;
  readonly fields: FieldsOf<Omit<M, keyof MendBase | 'method'>>;
  /** The mark it is drawn with. */
  readonly mark: StartingMark;
  /** True if it takes from a source: it has a field of that name. */
  readonly takesFromSource: boolean;
  /** The rectangle it may change, inside the picture. */
  footprint(mend: M, picture: PictureShape): Rect;
  /** The rectangles it looks at; what lies outside has no say in its result. */
  reads(mend: M, picture: PictureShape): Rect[];
  /** Works out new values and coverage, before fences, share and what is painted in. Pure. */
  apply(mend: M, canvas: Canvas): Patch;
  /** True if its share is in its coverage already. */
  holdsShare?(mend: M): boolean;
  /** A new mend by this method; null where it has nothing to go by, and the place is healed instead. */
  make(found: NewMend): M | null;
  /** Looks for what a schema cannot say of its own fields. */
  check?(mend: M): Mistake | null;
  /** The mend with its target moved: its source stays where it was, what was fitted to the place moves along. */
  move(mend: M, shift: Shift): M;
}
