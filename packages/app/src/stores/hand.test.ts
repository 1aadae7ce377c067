import fc from 'fast-check';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { nextTick } from 'vue';
import { openPage } from '../testing/openPage.ts';
import { pictureSheet } from '../testing/pictureSheet.ts';
import { useFences } from './fences.ts';
import { useHand } from './hand.ts';
import { usePicture } from './picture.ts';
import { useTurns } from './turns.ts';

beforeEach(() => void openPage());

describe('the hand', () => {
  it('has a mark of its own for each tool, and keeps it within bounds', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            tool: fc.constantFrom('heal' as const, 'clone' as const, 'zone' as const),
            steps: fc.integer({ min: -60, max: 60 }),
          }),
          { minLength: 1, maxLength: 8 },
        ),
        (turns) => {
          const hand = useHand();
          for (const { tool, steps } of turns) {
            hand.tool = tool;
            const others = (['heal', 'clone', 'zone'] as const).filter((one) => one !== tool);
            const radii = () =>
              others.map((one) => {
                hand.tool = one;
                return hand.current.radius;
              });
            const before = radii();
            hand.tool = tool;
            hand.resize(steps);
            const { radius } = hand.current;
            expect(radius).toBeGreaterThanOrEqual(0.5);
            expect(radius).toBeLessThanOrEqual(400);
            expect(radii()).toEqual(before);
          }
        },
      ),
      { numRuns: 30 },
    );
  });

  it('takes a tool up, lays it down when it is taken up again, and has nothing to lay down then', () => {
    const hand = useHand();
    hand.arm('heal');
    expect(hand.tool).toBe('heal');
    hand.arm('clone');
    expect(hand.tool).toBe('clone');
    hand.arm('clone');
    expect(hand.tool).toBeNull();
    expect(hand.layDown()).toBe(false);
    hand.arm('mark');
    expect(hand.layDown()).toBe(true);
  });

  it('takes the next stroke from where the last one’s source went on, starts anew, or stays', () => {
    const hand = useHand();
    hand.arm('clone');
    expect(hand.choiceAt([5, 5]).source).toBeNull();
    hand.setSource([100, 50]);
    const first = hand.choiceAt([40, 40]).source;
    expect(first).toMatchObject({ dx: 60, dy: 10 });
    hand.usedSource({ dx: 60, dy: 10 });
    hand.way = 'keeps its offset';
    expect(hand.choiceAt([0, 0]).source).toMatchObject({ dx: 60, dy: 10 });
    hand.way = 'starts anew';
    expect(hand.choiceAt([0, 0]).source).toMatchObject({ dx: 100, dy: 50 });
    hand.way = 'stays fixed';
    expect(hand.choiceAt([0, 0]).laying).toBe('fixed');
  });

  it('forgets tool, source and zone at once', () => {
    const hand = useHand();
    hand.arm('heal');
    hand.setSource([1, 2]);
    hand.zone = 'z';
    hand.isSettingSource = true;
    hand.reset();
    expect([hand.tool, hand.source, hand.zone, hand.isSettingSource]).toEqual([null, null, null, false]);
  });
});

describe('the fence that is drawn on', () => {
  it('is let go when another picture is opened, and when a tool of the other kind is taken up', async () => {
    const picture = usePicture();
    picture.takeSheet(pictureSheet());
    const fences = useFences();
    fences.currentId = 'g';
    fences.join = 'subtract';
    picture.takeSheet(pictureSheet({ id: 'another' }));
    await nextTick();
    expect([fences.currentId, fences.join]).toEqual([null, 'add']);
  });

  it('turns through the ways to draw and comes round', () => {
    const fences = useFences();
    const first = fences.shape;
    const seen = new Set<string>();
    do {
      seen.add(fences.shape);
      fences.turnShape();
    } while (fences.shape !== first && seen.size < 10);
    expect([...seen].sort()).toEqual(['brush', 'outline', 'rectangle', 'touch']);
  });
});

describe('what takes turns', () => {
  it('goes one after the other in its lane, past one that fails, and does not wait for other lanes', async () => {
    const picture = usePicture();
    const turns = useTurns();
    const order: string[] = [];
    const work =
      (name: string, ms: number, fails = false) =>
      async (): Promise<void> => {
        order.push(`${name} begins`);
        await new Promise((resolve) => setTimeout(resolve, ms));
        if (fails) throw new Error('no source');
        order.push(`${name} ends`);
      };
    await Promise.all([
      turns.take('fences', work('first', 20)),
      turns.take('fences', work('second', 1, true)),
      turns.take('fences', work('third', 1)),
      turns.take('treatments', work('beside', 1)),
    ]);
    expect(order.filter((one) => !one.startsWith('beside'))).toEqual([
      ...['first begins', 'first ends', 'second begins', 'third begins', 'third ends'],
    ]);
    expect(order.indexOf('beside ends')).toBeLessThan(order.indexOf('first ends'));
    expect(picture.notice).not.toBeNull();
    vi.unstubAllGlobals();
  });
});
