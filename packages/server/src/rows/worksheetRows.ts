import type { Fence } from '@fennip/core/fence';
import type { FinishStep } from '@fennip/core/finish';
import type { Mend } from '@fennip/core/mend';
import type { Recipe, Worksheet } from '@fennip/core/recipe';
import { emptyRecipe } from '@fennip/core/recipe';
import type { Knex } from 'knex';
import { asFaultRow, decisionsOf } from './faultRows.ts';

type Sized = { readonly id: string; readonly width: number; readonly height: number };

type ListTable = 'mends' | 'fences' | 'finish_steps';

/** Reads what is done to a picture: its mends, fences and finish, each in their order. */
export async function readRecipe(database: Knex, picture: Sized): Promise<Recipe> {
  const of = (table: ListTable): Knex.QueryBuilder =>
    database(table)
      .where('picture_id', picture.id)
      .select('position', 'body', database.raw('? as kind', table));
  const rows: { kind: ListTable; body: unknown }[] = await of('mends')
    .unionAll([of('fences'), of('finish_steps')])
    .orderBy('position');
  const bodiesOf = <T>(table: ListTable): T[] =>
    rows.filter(({ kind }) => kind === table).map(({ body }) => body as T);
  const [mends, fences, finish] = [
    bodiesOf<Mend>('mends'),
    bodiesOf<Fence>('fences'),
    bodiesOf<FinishStep>('finish_steps'),
  ];
  return {
    ...emptyRecipe(picture),
    mends,
    ...(fences.length > 0 ? { fences } : {}),
    ...(finish.length > 0 ? { finish } : {}),
  };
}

/** Reads all that edits can change of a picture. */
export async function readWorksheet(database: Knex, picture: Sized): Promise<Worksheet> {
  const recipe = await readRecipe(database, picture);
  return { recipe, ...(await decisionsOf(database, picture.id)) };
}

/** Writes what differs between two worksheets of one picture. */
export async function writeDifference(
  change: Knex.Transaction,
  pictureId: string,
  before: Worksheet,
  after: Worksheet,
): Promise<void> {
  await writeList(change, pictureId, 'mends', before.recipe.mends, after.recipe.mends);
  await writeList(change, pictureId, 'fences', before.recipe.fences ?? [], after.recipe.fences ?? []);
  await writeList(change, pictureId, 'finish_steps', before.recipe.finish ?? [], after.recipe.finish ?? []);
  await writeMarked(change, pictureId, before, after);
  await writeColumn(change, pictureId, 'judgement', before.judgements, after.judgements, 'open');
  await writeColumn(change, pictureId, 'own_kind', before.kinds, after.kinds, null);
}

/** Writes what differs between two ordered lists: what is gone, what is new, changed or moved. */
async function writeList<T extends { readonly id: string; readonly fault?: string }>(
  change: Knex.Transaction,
  pictureId: string,
  table: ListTable,
  before: readonly T[],
  after: readonly T[],
): Promise<void> {
  if (before === after) return;
  const stood = new Map(before.map((thing, position) => [thing.id, { thing, position }]));
  const stays = new Set(after.map(({ id }) => id));
  const gone = [...stood.keys()].filter((id) => !stays.has(id));
  const rows = after.flatMap((thing, position) => {
    const old = stood.get(thing.id);
    if (old && old.thing === thing && old.position === position) return [];
    return [{ id: thing.id, position, fault_id: thing.fault, body: thing }];
  });
  if (gone.length > 0) await change(table).where('picture_id', pictureId).whereIn('id', gone).delete();
  if (rows.length === 0) return;
  const [named, taken] = table === 'mends' ? ['fault_id, ', 'fault_id = excluded.fault_id, '] : ['', ''];
  await change.raw(
    `insert into ${table} (picture_id, id, position, ${named}body)
     select ?, row.id, row.position, ${named === '' ? '' : 'row.fault_id, '}row.body
     from jsonb_to_recordset(?::jsonb) as row(id text, position int, fault_id text, body jsonb)
     on conflict (picture_id, id)
     do update set position = excluded.position, ${taken}body = excluded.body`,
    [pictureId, JSON.stringify(rows)],
  );
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
