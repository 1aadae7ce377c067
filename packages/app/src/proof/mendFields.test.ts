import { describe, expect, it } from 'vitest';
import type { BridgeMend, HealMend } from '@fennip/core/mend';
import { MEND_FIELDS } from './mendFields.ts';

const BASE = { id: 'm', margin: 1, edge: 1, share: 1, on: true } as const;
const DISC = { shape: 'disc', x: 9, y: 9, r: 4 } as const;
const HEAL: HealMend = { ...BASE, method: 'heal', target: DISC, source: { dx: 8, dy: 2 } };
const BRIDGE: BridgeMend = { ...BASE, method: 'bridge', target: DISC };

describe('the numbers of a mend', () => {
  it('read back what was written, and change nothing else', () => {
    for (const field of MEND_FIELDS) {
      const written = field.write(HEAL, 12);
      expect(field.read(written), field.name).toBe(12);
      expect(field.write(written, field.read(HEAL)), field.name).toMatchObject({ ...HEAL });
    }
  });

  it('offer turn and scale only where there is a source to turn', () => {
    const usedBy = (mend: HealMend | BridgeMend): string[] =>
      MEND_FIELDS.filter(({ isUsed }) => isUsed(mend)).map(({ name }) => name);
    expect(usedBy(HEAL)).toEqual(['share', 'margin', 'edge', 'turn', 'scale']);
    expect(usedBy(BRIDGE)).toEqual(['share', 'margin', 'edge']);
    expect(usedBy({ ...HEAL, source: null })).toEqual(['share', 'margin', 'edge']);
  });
});
