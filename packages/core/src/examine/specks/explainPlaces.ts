import { columnOf } from '../../measure/columnOf.ts';
import { kernels, layBehind, layOut, take } from '../../kernels/kernels.ts';
import { Explained, Template } from '../../kernels/layout.ts';
import type { HeldLuma } from '../ground/heldLuma.ts';
import type { DiscTemplate } from './discTemplates.ts';
import { LANES } from './discTemplates.ts';

/** How well a soft disc explains the steps between neighbours at a place. */
export interface Explanation {
  readonly template: DiscTemplate;
  /** In which row of the templates it stands: which radius it has. */
  readonly row: number;
  /** Depth of the disc, in units of the plane; above 0 where its inside is darker. */
  readonly depth: number;
  /** Sum of the sizes of the steps as they are, and with the disc undone. */
  readonly before: number;
  readonly after: number;
  /** How the steps go together with the disc's, -1 to 1. */
  readonly correlation: number;
  /** How far its centre lies from the middle of the pixel it was looked for at, in pixels. */
  readonly offX: number;
  readonly offY: number;
}

/** A place where a disc is looked for: the index of its pixel, and 1 where it is darker than its surroundings. */
export interface Place {
  readonly at: number;
  readonly sign: 1 | -1;
}

/** Lays templates behind the rest as the compiled loop reads them. @returns where their heads are, and the most runs */
function layTemplates(templates: readonly DiscTemplate[], width: number): { heads: number; most: number } {
  const heads = new DataView(new ArrayBuffer(Template.BYTES * templates.length));
  templates.forEach(({ x, y, isDown, steps, count, energy }, t) => {
    const first = x.map((column, run) => 2 * (y[run] * width + column));
    const second = first.map((from, run) => from + 2 * (isDown[run] === 1 ? width : 1));
    const head = Template.BYTES * t;
    const [firstAt, secondAt, stepsAt] = layBehind([first, second, steps]);
    heads.setInt32(head + Template.COUNT, first.length, true);
    heads.setInt32(head + Template.FIRST, firstAt, true);
    heads.setInt32(head + Template.SECOND, secondAt, true);
    heads.setInt32(head + Template.STEPS, stepsAt, true);
    heads.setFloat64(head + Template.ENERGY, energy, true);
    // By whole runs, as the classifiers have learnt it.
    heads.setFloat64(head + Template.ROOT, Math.sqrt(LANES * Math.ceil(count / LANES)), true);
  });
  return {
    heads: layBehind([new Uint8Array(heads.buffer)])[0],
    most: Math.max(...templates.map(({ x }) => x.length)),
  };
}

/**
 * The disc that explains each place best: the radius by how well the steps go together with its own, then the softness by
 * how much variation is taken away. The depth of a disc is the one that, undone, leaves the least variation, by iteratively
 * reweighted least squares for the sum of the sizes of the steps: texture of the subject does not line up with a disc, so
 * only a true veil takes much away.
 *
 * @param templates one row of softnesses for each radius
 */
export function explainPlaces(
  { width, at: from }: HeldLuma,
  places: readonly Place[],
  templates: readonly (readonly DiscTemplate[])[],
): Explanation[] {
  const flat = templates.flat();
  const [centres, signs] = layOut([
    columnOf(Int32Array, places, ({ at }) => at),
    columnOf(Int32Array, places, ({ sign }) => sign),
  ]);
  const { heads, most } = layTemplates(flat, width);
  const [seen, found] = layBehind([4 * LANES * most, 8 * Explained.NUMBERS * places.length]);
  kernels().explainPlaces(
    ...[from, width, centres, signs, places.length],
    ...[heads, templates.length, templates[0].length, seen, found],
  );
  const all = take(Float64Array, found, Explained.NUMBERS * places.length);
  return places.map((_, k): Explanation => {
    const read = (field: Explained): number => all[Explained.NUMBERS * k + field];
    const number = read(Explained.TEMPLATE);
    return {
      template: flat[number],
      row: Math.floor(number / templates[0].length),
      depth: read(Explained.DEPTH),
      before: read(Explained.BEFORE),
      after: read(Explained.AFTER),
      correlation: read(Explained.CORRELATION),
      offX: read(Explained.OFF_X),
      offY: read(Explained.OFF_Y),
    };
  });
}
