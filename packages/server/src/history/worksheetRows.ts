import type { Mend, Worksheet } from '@fennip/core';
import { emptyRecipe } from '@fennip/core';
import type { Knex } from 'knex';
import { faultsOf } from '../examine/faultRows.ts';

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
  const { judgements } = await faultsOf(database, picture.id);
  return { recipe: { ...emptyRecipe(picture), mends: rows.map((row) => row.body) }, judgements };
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
  await writeJudgements(change, pictureId, before, after);
}

async function writeJudgements(
  change: Knex.Transaction,
  pictureId: string,
  { judgements: before }: Worksheet,
  { judgements: after }: Worksheet,
): Promise<void> {
  const rows = [...new Set([...Object.keys(before), ...Object.keys(after)])]
    .filter((id) => before[id] !== after[id])
    .map((id) => ({ id, judgement: after[id] ?? 'open' }));
  if (rows.length === 0) return;
  await change.raw(
    `update faults set judgement = row.judgement
     from jsonb_to_recordset(?::jsonb) as row(id text, judgement text)
     where faults.picture_id = ? and faults.id = row.id`,
    [JSON.stringify(rows), pictureId],
  );
}
