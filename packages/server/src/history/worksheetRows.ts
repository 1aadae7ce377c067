import type { Mend, Worksheet } from '@fennip/core';
import { emptyRecipe } from '@fennip/core';
import type { Knex } from 'knex';
import { asFaultRow, faultsOf } from '../examine/faultRows.ts';

interface MendRow {
  readonly id: string;
  readonly position: number;
  readonly body: Mend;
}

/** Reads all that edits can change of a picture. */
export async function readWorksheet(
  database: Knex,
  picture: { id: string; width: number; height: number },
): Promise<Worksheet> {
  const rows: MendRow[] = await database('mends').where('picture_id', picture.id).orderBy('position');
  const { judgements, kinds, marked } = await faultsOf(database, picture.id);
  return {
    recipe: { ...emptyRecipe(picture), mends: rows.map((row) => row.body) },
    ...{ judgements, kinds, marked },
  };
}

/** Writes what differs between two worksheets of one picture. */
export async function writeDifference(
  change: Knex.Transaction,
  pictureId: string,
  before: Worksheet,
  after: Worksheet,
): Promise<void> {
  const stood = new Map(before.recipe.mends.map((mend, position) => [mend.id, { mend, position }]));
  const stays = new Set(after.recipe.mends.map((mend) => mend.id));
  const gone = [...stood.keys()].filter((id) => !stays.has(id));
  const changed = after.recipe.mends.flatMap((mend, position) => {
    const old = stood.get(mend.id);
    return old && old.mend === mend && old.position === position ? [] : [{ mend, position }];
  });
  if (gone.length > 0) await change('mends').where('picture_id', pictureId).whereIn('id', gone).delete();
  if (changed.length > 0) {
    const rows = changed.map(({ mend, position }) => ({
      id: mend.id,
      position,
      fault_id: mend.fault,
      body: mend,
    }));
    await change.raw(
      `insert into mends (picture_id, id, position, fault_id, body)
       select ?, row.id, row.position, row.fault_id, row.body
       from jsonb_to_recordset(?::jsonb) as row(id text, position int, fault_id text, body jsonb)
       on conflict (picture_id, id)
       do update set position = excluded.position, fault_id = excluded.fault_id, body = excluded.body`,
      [pictureId, JSON.stringify(rows)],
    );
  }
  await writeMarked(change, pictureId, before, after);
  await writeColumn(change, pictureId, 'judgement', before.judgements, after.judgements, 'open');
  await writeColumn(change, pictureId, 'own_kind', before.kinds, after.kinds, null);
}

/** Faults marked by hand come and go as rows; what was decided about one goes with it. */
async function writeMarked(
  change: Knex.Transaction,
  pictureId: string,
  { marked: before }: Worksheet,
  { marked: after }: Worksheet,
): Promise<void> {
  const stays = new Set(after.map(({ id }) => id));
  const gone = before.filter(({ id }) => !stays.has(id)).map(({ id }) => id);
  const stood = new Set(before);
  const fresh = after.filter((fault) => !stood.has(fault));
  if (gone.length > 0)
    await change('faults').where({ picture_id: pictureId, origin: 'hand' }).whereIn('id', gone).delete();
  if (fresh.length === 0) return;
  await change('faults')
    .insert(fresh.map((fault) => ({ ...asFaultRow(fault, 'hand'), origin: 'hand', picture_id: pictureId })))
    .onConflict(['picture_id', 'id'])
    .merge();
  const last = Math.max(...fresh.map(({ number }) => number));
  await change('pictures')
    .where('id', pictureId)
    .update({ next_fault: change.raw('greatest(next_fault, ?)', [last + 1]) });
}

/** Writes what was decided about faults, where it differs; `usual` stands for nothing. */
async function writeColumn(
  change: Knex.Transaction,
  pictureId: string,
  column: 'judgement' | 'own_kind',
  before: Readonly<Record<string, string>>,
  after: Readonly<Record<string, string>>,
  usual: string | null,
): Promise<void> {
  const rows = [...new Set([...Object.keys(before), ...Object.keys(after)])]
    .filter((id) => before[id] !== after[id])
    .map((id) => ({ id, value: after[id] ?? usual }));
  if (rows.length === 0) return;
  await change.raw(
    `update faults set ?? = row.value
     from jsonb_to_recordset(?::jsonb) as row(id text, value text)
     where faults.picture_id = ? and faults.id = row.id`,
    [column, JSON.stringify(rows), pictureId],
  );
}
