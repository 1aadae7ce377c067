import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { createPixelGate } from './pixelGate.ts';

describe('the gate before work on whole pictures', () => {
  it('never lets in more than it holds, but for one that alone is larger, and lets in all in the end', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.record({ pixels: fc.integer({ min: 1, max: 30 }), ms: fc.integer({ min: 0, max: 3 }) }), {
          maxLength: 20,
        }),
        async (works) => {
          const gate = createPixelGate(20);
          const begun: number[] = [];
          let isBeyond = false;
          let under = 0;
          await Promise.all(
            works.map(({ pixels, ms }, k) =>
              gate.run(pixels, async () => {
                begun.push(k);
                under++;
                isBeyond ||= gate.inWork > 20 && under > 1;
                await new Promise((resolve) => setTimeout(resolve, ms));
                under--;
              }),
            ),
          );
          expect([isBeyond, gate.inWork]).toEqual([false, 0]);
          // First come first served.
          expect(begun).toEqual(works.map((_, k) => k));
        },
      ),
      { numRuns: 30 },
    );
  });

  it('lets the next one in after one that failed', async () => {
    const gate = createPixelGate(10);
    const failing = gate.run(10, () => Promise.reject(new Error('broken')));
    const next = gate.run(10, () => Promise.resolve('done'));
    await expect(failing).rejects.toThrow('broken');
    expect(await next).toBe('done');
  });
});
