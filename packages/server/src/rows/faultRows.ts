import type { FaultKind, LeftoverOrigin, NumberedFault } from '@fennip/core/fault';
import type { Judgement } from '@fennip/core/recipe';
import type { Database } from '../database/connect.ts';

/**
 * Where a fault comes from: the finder, the restorer's hand, the camera's dust chart, the seams of a joined picture, or an
 * examination of the mended picture.
 */
export type FaultOrigin = 'found' | 'hand' | 'charted' | 'joined' | LeftoverOrigin;

export interface FaultRow extends Omit<
  NumberedFault,
  'path' | 'outline' | 'isExact' | 'origin' | 'tone' | 'charted' | 'known'
> {
  readonly path: NumberedFault['path'] | null;
  readonly outline: NumberedFault['outline'] | null;
  readonly is_exact: boolean;
  readonly tone: number | null;
  readonly charted: number | null;
  readonly known: NumberedFault['known'] | null;
  readonly origin: FaultOrigin;
  readonly picture_id: string;
  readonly judgement: Judgement;
  readonly own_kind: FaultKind | null;
}

/** What the ledger of a picture says of its faults. */
export interface FaultSheet {
  readonly faults: readonly NumberedFault[];
  readonly marked: readonly NumberedFault[];
  readonly judgements: Readonly<Record<string, Judgement>>;
  readonly kinds: Readonly<Record<string, FaultKind>>;
}

function asFault(row: FaultRow): NumberedFault {
  const { id, number, kind, polarity, x, y, r, strength, softness, confidence } = row;
  const { path, outline, is_exact, origin, tone, charted, known } = row;
  return {
    ...{ id, number, kind, polarity, x, y, r, strength, softness, confidence },
    ...(tone === null ? {} : { tone }),
    ...(path ? { path } : {}),
    ...(outline ? { outline } : {}),
    ...(is_exact ? { isExact: true } : {}),
    ...(charted === null ? {} : { charted }),
    ...(known ? { known } : {}),
    ...(origin === 'left over' || origin === 'made by a mend' ? { origin } : {}),
  };
}

/** What a fault is in the table; shapes travel as JSON. */
export const asFaultRow = (
  { path, outline, isExact, origin, charted, known, ...fault }: NumberedFault,
  from: FaultOrigin,
) => ({
  ...fault,
  charted: charted ?? null,
  known: known ? JSON.stringify(known) : null,
  path: path ? JSON.stringify(path) : null,
  outline: outline ? JSON.stringify(outline) : null,
  is_exact: isExact ?? false,
  origin: origin ?? from,
});

const sheetOf = (rows: readonly FaultRow[]): FaultSheet => {
  const byHand = (row: FaultRow): boolean => row.origin === 'hand';
  return {
    faults: rows.filter((row) => !byHand(row)).map(asFault),
    marked: rows.filter(byHand).map(asFault),
    judgements: Object.fromEntries(
      rows.filter((row) => row.judgement !== 'open').map((row) => [row.id, row.judgement]),
    ),
    kinds: Object.fromEntries(
      rows.flatMap(({ id, own_kind }) => (own_kind === null ? [] : [[id, own_kind]])),
    ),
  };
};

const rowsOf = (database: Database, pictureId: string) =>
  database<FaultRow>('faults').where('picture_id', pictureId).orderBy('number');

/** A picture's faults by their numbers, and what was decided about them. */
export async function faultsOf(database: Database, pictureId: string): Promise<FaultSheet> {
  return sheetOf((await rowsOf(database, pictureId)) as FaultRow[]);
}

/** What a restorer made of a picture's faults: those marked by hand and what was decided. Most of what was found waits. */
export async function decisionsOf(
  database: Database,
  pictureId: string,
): Promise<Omit<FaultSheet, 'faults'>> {
  const rows = await rowsOf(database, pictureId).where((row) =>
    row.where('origin', 'hand').orWhereNot('judgement', 'open').orWhereNotNull('own_kind'),
  );
  const { marked, judgements, kinds } = sheetOf(rows as FaultRow[]);
  return { marked, judgements, kinds };
}
