import { randomUUID } from 'node:crypto';
import { Router } from 'express';
import type { Routine, RoutineStep } from '@fennip/contract';
import { RoutineDocumentSchema } from '@fennip/contract';
import { checkerOf } from '@fennip/contract/check';
import type { Context } from '../context/context.ts';
import { checkId } from '../rows/pictureRows.ts';
import { notFound } from '../errors/refusal.ts';

const checkRoutine = checkerOf(RoutineDocumentSchema);

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

/** Routines: named runs of steps, kept, sent out and taken in as documents of their own. */
export function routineRoutes({ database }: Context): Router {
  const router = Router();

  router.get('/routines', async (_request, response) => {
    const rows: RoutineRow[] = await database<RoutineRow>('routines').orderBy('name');
    response.json(rows.map(asRoutine));
  });

  router.post('/routines', async (request, response) => {
    const { name, steps } = checkRoutine(request.body);
    const row = { id: randomUUID(), name: name.trim(), steps };
    await database('routines').insert({ ...row, steps: JSON.stringify(steps) });
    response.status(201).json(asRoutine(row));
  });

  router.put('/routines/:routine', async (request, response) => {
    const id = checkId(request.params.routine, 'routine');
    const { name, steps } = checkRoutine(request.body);
    const changed = await database('routines')
      .where('id', id)
      .update({ name: name.trim(), steps: JSON.stringify(steps) });
    if (changed === 0) throw notFound('routine');
    response.json(asRoutine({ id, name: name.trim(), steps }));
  });

  router.delete('/routines/:routine', async (request, response) => {
    const gone = await database('routines').where('id', checkId(request.params.routine, 'routine')).delete();
    if (gone === 0) throw notFound('routine');
    response.status(204).end();
  });

  return router;
}
