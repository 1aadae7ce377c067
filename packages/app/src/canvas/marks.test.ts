import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { LedgerEntry } from '@fennip/core/ledger';
import type { HealMend } from '@fennip/core/mend';
import type { Target } from '@fennip/core/target';
import { ledgerEntries } from '@fennip/core/ledger';
import { emptyWorksheet } from '@fennip/core/recipe';
import type { MarkScene } from './drawMark.ts';
import { FADE_FAR } from './drawMark.ts';
import { fadedBoxes } from './fadedBoxes.ts';
import type { Box } from './markBoxes.ts';
import { markBoxes } from './markBoxes.ts';
import { markChanges } from './markChanges.ts';
import { indexMarks } from './markIndex.ts';
import { screenToSeen } from './viewport.ts';

const TABLE = { width: 1000, height: 600 };
const VIEW = { x: 500, y: 300, scale: 1, framing: null };

function handMend(id: string, target: Target): HealMend {
  return { id, method: 'heal', target, margin: 1, edge: 1, share: 1, on: true, source: null };
}
const disc = (id: string, x: number, y: number): HealMend => handMend(id, { shape: 'disc', x, y, r: 6 });

/** A wave from the left to the right of the table. */
const wave = (id: string, y: number): HealMend =>
  handMend(id, {
    shape: 'stroke',
    points: Array.from({ length: 180 }, (_, i): [number, number] => [100 + 4 * i, y + 40 * Math.sin(i / 9)]),
    width: 12,
  });

/** Mends by hand as they are marked on a table that shows a picture of its own size. */
function sceneOf(mends: readonly HealMend[], more: Partial<MarkScene> = {}): MarkScene {
  const empty = emptyWorksheet(TABLE);
  const shown = ledgerEntries([], { ...empty, recipe: { ...empty.recipe, mends } });
  const index = indexMarks(shown);
  const within = (left: number, top: number, right: number, bottom: number): LedgerEntry[] => {
    const [x, y] = screenToSeen(VIEW, TABLE, left, top);
    return index.within({ left: x, top: y, width: right - left, height: bottom - top }, 0);
  };
  return {
    ...{ view: VIEW, table: TABLE, shown, within, withTags: false, chosen: new Set<string>() },
    ...{ focus: null, hovered: null, cutEdges: [], guides: [], drafted: null, pointer: null },
    colours: { open: '#fa0', mended: '#0a8', chosen: '#08f' },
    ...more,
  };
}

const areaOf = ({ left, top, right, bottom }: Box): number => (right - left) * (bottom - top);
const idsOf = (entries: readonly LedgerEntry[]): string[] => entries.map(({ id }) => id).sort();

describe('marks that change', () => {
  const three = [wave('a', 200), wave('b', 300), disc('c', 500, 500)];

  it('are none but the one that was added, whatever is there', () => {
    const changes = markChanges(sceneOf(three), sceneOf([...three, wave('d', 400)]));
    expect(idsOf(changes.added)).toEqual(['d']);
    expect(changes.changed).toEqual([]);
  });

  it('are the one that is gone and those that have another number since', () => {
    const changes = markChanges(sceneOf(three), sceneOf([three[0], three[2]]));
    expect(idsOf(changes.changed)).toEqual(['b', 'c', 'c']);
    expect(changes.added).toEqual([]);
  });

  it('are those that were chosen or are, and the one in focus', () => {
    const before = sceneOf(three, { chosen: new Set(['a']) });
    const focus = before.shown[2];
    const changes = markChanges(before, sceneOf(three, { chosen: new Set(['b']), focus }));
    expect(idsOf(changes.changed)).toEqual(['a', 'b', 'c']);
  });
});

describe('marks under the pointer', () => {
  it('fade in one small part, where a line is concerned in what is near of it', () => {
    const boxes = fadedBoxes(sceneOf([wave('a', 300)], { pointer: [500, 300] }));
    expect(boxes).toHaveLength(1);
    expect(areaOf(boxes[0])).toBeLessThanOrEqual((2 * FADE_FAR + 2) ** 2);
  });

  it('fade where they are near, and nowhere else', () => {
    const place = fc.record({ x: fc.integer({ min: 0, max: 1000 }), y: fc.integer({ min: 0, max: 600 }) });
    fc.assert(
      fc.property(fc.array(place, { maxLength: 20 }), place, (spots, at) => {
        const scene = sceneOf(
          spots.map(({ x, y }, i) => disc(`${i}`, x, y)),
          { pointer: [at.x, at.y] },
        );
        const boxes = fadedBoxes(scene);
        const isIn = (box: Box): boolean =>
          boxes.some(
            (part) =>
              part.left <= box.left &&
              part.top <= box.top &&
              part.right >= box.right &&
              part.bottom >= box.bottom,
          );
        for (const [i, { x, y }] of spots.entries()) {
          const distance = Math.hypot(x - at.x, y - at.y);
          const [box] = markBoxes(scene, scene.shown[i]);
          if (box && distance < FADE_FAR) expect(isIn(box)).toBe(true);
        }
        const isNear = spots.some(({ x, y }) => Math.hypot(x - at.x, y - at.y) < 2 * FADE_FAR);
        if (!isNear) expect(boxes).toEqual([]);
      }),
    );
  });

  it('stay as they are where the one in focus is a line', () => {
    const scene = sceneOf([wave('a', 300)], { pointer: [500, 300] });
    expect(fadedBoxes({ ...scene, focus: scene.shown[0] })).toEqual([]);
  });
});
