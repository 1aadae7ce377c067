import type { Mend } from '@fennip/core/mend';
import type { Source } from '@fennip/core/source';
import { isSourced, isTreatment, sourceOf } from '@fennip/core/mend';
import type { WordKey } from '../i18n/say.ts';

/** One number of a mend that can be changed. */
export interface MendFieldKind {
  readonly name: 'share' | 'margin' | 'edge' | 'turn' | 'scale';
  readonly unit: WordKey;
  readonly least: number;
  readonly most: number;
  readonly step: number;
  readonly isUsed: (mend: Mend) => boolean;
  readonly read: (mend: Mend) => number;
  readonly write: (mend: Mend, value: number) => Mend;
}

/** A mend with something about its source changed; one without a source stays as it is. */
export const withSource = (mend: Mend, changed: Partial<Source>): Mend =>
  isSourced(mend) && mend.source ? { ...mend, source: { ...mend.source, ...changed } } : mend;

const degrees = (radians: number): number => Math.round((radians * 180) / Math.PI);
const isFree = (mend: Mend): boolean => mend.method !== 'recover' && !isTreatment(mend);
const hasFreeSource = (mend: Mend): boolean => isFree(mend) && sourceOf(mend) !== null;

/** The numbers of a mend, in the order they are shown. */
export const MEND_FIELDS: readonly MendFieldKind[] = [
  {
    ...{ name: 'share', unit: 'unit.percent', least: 0, most: 100, step: 5 },
    isUsed: () => true,
    read: ({ share }) => Math.round(share * 100),
    write: (mend, value) => ({ ...mend, share: value / 100 }),
  },
  {
    ...{ name: 'margin', unit: 'unit.pixels', least: 0, most: 200, step: 0.5 },
    isUsed: isFree,
    read: ({ margin }) => Number(margin.toFixed(1)),
    write: (mend, margin) => ({ ...mend, margin }),
  },
  {
    ...{ name: 'edge', unit: 'unit.pixels', least: 0, most: 200, step: 0.5 },
    isUsed: isFree,
    read: ({ edge }) => Number(edge.toFixed(1)),
    write: (mend, edge) => ({ ...mend, edge }),
  },
  {
    ...{ name: 'turn', unit: 'unit.degrees', least: -180, most: 180, step: 1 },
    isUsed: hasFreeSource,
    read: (mend) => degrees(sourceOf(mend)?.turn ?? 0),
    write: (mend, value) => withSource(mend, { turn: (value * Math.PI) / 180 }),
  },
  {
    ...{ name: 'scale', unit: 'unit.percent', least: 10, most: 400, step: 1 },
    isUsed: hasFreeSource,
    read: (mend) => Math.round(100 * (sourceOf(mend)?.scale ?? 1)),
    write: (mend, value) => withSource(mend, { scale: value / 100 }),
  },
];
