import { randomUUID } from 'node:crypto';
import { Router } from 'express';
import type { Routine, RoutineStep } from '@fennip/contract';
import type { Context } from '../context/context.ts';
import { checkId } from '../rows/pictureRows.ts';
import { notFound } from '../errors/refusal.ts';
import { answer } from './answer.ts';

interface RoutineRow {
  readonly id: string;
  readonly name: string;
  readonly steps: RoutineStep[];
}

const asRoutine = ({ id, name, steps }: RoutineRow): Routine => ({
  ...{ id, name, steps },
  format: 'fennip-routine',
  version: 1,
});

const idOf = (params: { readonly routine: string }): string => checkId(params.routine, 'routine');

/** Routines: named runs of steps, kept, sent out and taken in as documents of their own. */
export function routineRoutes({ database }: Context): Router {
  const router = Router();

  answer(router, 'routines', async () => {
    const rows: RoutineRow[] = await database<RoutineRow>('routines').orderBy('name');
    return rows.map(asRoutine);
  });
  answer(router, 'keepRoutine', async ({ body: { name, steps } }) => {
    const row = { id: randomUUID(), name: name.trim(), steps };
    await database('routines').insert({ ...row, steps: JSON.stringify(steps) });
    return asRoutine(row);
  });
  answer(router, 'changeRoutine', async ({ params, body: { name, steps } }) => {
    const id = idOf(params);
    const changed = await database('routines')
      .where('id', id)
      .update({ name: name.trim(), steps: JSON.stringify(steps) });
    if (changed === 0) throw notFound('routine');
    return asRoutine({ id, name: name.trim(), steps });
  });
  answer(router, 'removeRoutine', async ({ params }) => {
    const gone = await database('routines').where('id', idOf(params)).delete();
    if (gone === 0) throw notFound('routine');
    return undefined;
  });

  return router;
}
