import { describe, expect, it } from 'vitest';
import type { HealMend, MendMeasure, Verdict } from '@fennip/core/mend';
import { BECAUSE, VISIBLE_SEAM } from '@fennip/core/mend';
import { DOUBTFUL, qualityOf } from '../stores/quality.ts';
import { figuresOf, reasonLine } from './mendWords.ts';

const HEAL: HealMend = {
  ...{ id: 'm', margin: 1, edge: 1, share: 1, on: true, method: 'heal', source: null },
  target: { shape: 'disc', x: 1, y: 1, r: 1 },
};
const CLEAN: MendMeasure = {
  ...{ change: 0.2, seam: 1, seamBefore: 3, departure: 0.3, departureBefore: 5, grain: 1 },
  ...{ structureLost: 0, edgesUnmet: 0 },
};
const verdictOf = (verdict: Verdict['verdict'], changed: Partial<MendMeasure> = {}): Verdict => ({
  verdict,
  measure: { ...CLEAN, ...changed },
});

describe('a mend in words', () => {
  it('has a sentence for every reason, and says how much was kept where that was measured', () => {
    const lines = BECAUSE.map((because) => reasonLine({ ...HEAL, why: { because } }));
    expect(new Set(lines).size).toBe(BECAUSE.length);
    for (const line of lines) expect(line).toMatch(/^Healed: .+\.$/);
    const kept = { because: 'light comes through', recoverability: 0.82 } as const;
    expect(reasonLine({ ...HEAL, why: kept })).toContain('82 %');
    expect(reasonLine(HEAL)).toBe('Healed.');
  });

  it('calls a seam seen exactly where the verdict does', () => {
    const wordsAt = (seam: number): string | undefined =>
      figuresOf({ ...CLEAN, seam }, 0).find(({ name }) => name === 'Seam')?.meaning;
    expect(wordsAt(VISIBLE_SEAM - 0.01)).toBe('not seen');
    expect(wordsAt(VISIBLE_SEAM + 0.01)).toBe('shows');
  });

  it('has no wear without a source', () => {
    expect(figuresOf(CLEAN, null).map(({ name }) => name)).toEqual(['Seam', 'Grain']);
    expect(figuresOf(CLEAN, 2).at(-1)).toMatchObject({ value: '2', meaning: 'source used before' });
  });
});

describe('the quality of a mend', () => {
  it('puts what failed before what passed, and is doubtful only there', () => {
    const order = (['structure lost', 'worse', 'edges stop', 'nothing changed', 'good'] as const).map(
      (verdict) => qualityOf(verdictOf(verdict)),
    );
    expect([...order].sort((a, b) => a - b)).toEqual(order);
    expect(order.filter((quality) => quality < DOUBTFUL)).toHaveLength(4);
  });

  it('falls with grain that is missing or too much, and with a seam', () => {
    const clean = qualityOf(verdictOf('good'));
    for (const worse of [{ grain: 0.6 }, { grain: 1.6 }, { seam: 1.6 }])
      expect(qualityOf(verdictOf('good', worse))).toBeLessThan(clean);
  });
});
