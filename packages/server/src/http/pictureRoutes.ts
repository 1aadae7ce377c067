import type { EditAnswer, HistoryStep, PictureSheet } from '@fennip/contract';
import type { Request } from 'express';
import { Router } from 'express';
import type { Context } from '../context/context.ts';
import { deliveriesOf, orderDelivery, stopDelivery } from '../deliver/deliveries.ts';
import { reportOf } from '../deliver/report.ts';
import { takeBack } from '../deliver/takeBack.ts';
import { notFound } from '../errors/refusal.ts';
import { asLearned } from '../examine/learned.ts';
import { orderCheck } from '../examine/checkMended.ts';
import { orderExamination, stopExamination } from '../examine/examinePicture.ts';
import { edit, historyOf, redo, undo } from '../history/history.ts';
import { changePicture } from '../pictures/changePicture.ts';
import { assemblyOf } from '../pictures/joinPictures.ts';
import { takePage } from '../pictures/takePage.ts';
import { cropImage } from '../pictures/cropImage.ts';
import { binPicture } from '../bin/bin.ts';
import { faultsOf } from '../rows/faultRows.ts';
import { findingsOf } from '../rows/findingRows.ts';
import { checkId, pictureById, pictureRow } from '../rows/pictureRows.ts';
import { readRecipe } from '../rows/worksheetRows.ts';
import { proposeMend } from '../runs/proposeMend.ts';
import { answer, send } from './answer.ts';
import { forPerson } from './forPerson.ts';
import { wordsFor } from './wordsFor.ts';

async function sheetOf({ database }: Context, id: string): Promise<PictureSheet> {
  const row = await pictureRow(database, id);
  const [picture, faults, recipe, history] = await Promise.all([
    pictureById(database, id),
    faultsOf(database, id),
    readRecipe(database, row),
    historyOf(database, id),
  ]);
  return {
    picture,
    ...(row.transfer ? { transfer: row.transfer } : {}),
    ...faults,
    ...{ nextFault: row.next_fault, recipe, revision: row.revision },
    ...history,
  };
}

/** The steps of a history in the language of the request. */
function withWords<T extends Pick<EditAnswer, 'done' | 'undone'>>(request: Request, answer: T): T {
  const { renderText } = wordsFor(request);
  const rendered = (steps: readonly HistoryStep[]): HistoryStep[] =>
    steps.map((step) => ({ ...step, words: renderText(step.words) }));
  return { ...answer, done: rendered(answer.done), undone: rendered(answer.undone) };
}

const idOf = (params: { readonly picture: string }): string => checkId(params.picture, 'picture');

/** What is asked about one picture. */
export function pictureRoutes(context: Context): Router {
  const { database } = context;
  const router = Router();

  answer(router, 'picture', async ({ params, request }) =>
    withWords(request, await sheetOf(context, idOf(params))),
  );
  answer(router, 'changePicture', async ({ params, body }) => {
    await changePicture(context, idOf(params), body);
    return pictureById(database, params.picture);
  });
  answer(router, 'removePicture', async ({ params }) => {
    await binPicture(context, idOf(params));
    return undefined;
  });

  answer(router, 'takePage', ({ params }) => takePage(context, idOf(params), Number(params.page)));

  answer(router, 'assembly', ({ params }) => assemblyOf(database, idOf(params)));

  answer(router, 'examine', async ({ params, body }) => {
    await orderExamination(context, idOf(params), body);
    return pictureById(database, params.picture);
  });
  answer(router, 'stopExamining', async ({ params }) => {
    await stopExamination(context, idOf(params));
    return undefined;
  });
  answer(router, 'check', async ({ params }) => {
    await orderCheck(context, idOf(params));
    return pictureById(database, params.picture);
  });
  answer(router, 'findings', async ({ params }) => {
    const row = await pictureRow(database, idOf(params));
    return asLearned(database, row, (await findingsOf(database, row)) ?? []);
  });
  send(router, 'crop', async (params, response, request) => {
    const row = await pictureRow(database, idOf(params));
    const [x, y, half] = ['x', 'y', 'half'].map((name) => Number(request.query[name]));
    if (!(Number.isFinite(x) && Number.isFinite(y) && half >= 1 && half <= 5000)) throw notFound('place');
    const image = await cropImage(context, row, { x, y, half });
    if (!image) throw notFound('place');
    response.set({ 'Content-Type': 'image/png', 'Cache-Control': 'private, max-age=31536000, immutable' });
    response.send(image);
  });
  answer(router, 'proposal', async ({ params }) =>
    proposeMend(context, await pictureRow(database, idOf(params)), params.fault),
  );

  answer(router, 'edit', async ({ params, body, request }) =>
    withWords(request, await edit(forPerson(context, request), idOf(params), body.revision, body.edit)),
  );
  answer(router, 'undo', async ({ params, body, request }) =>
    withWords(request, await undo(context, idOf(params), body.revision)),
  );
  answer(router, 'redo', async ({ params, body, request }) =>
    withWords(request, await redo(context, idOf(params), body.revision)),
  );

  answer(router, 'bringBack', ({ params, request }) =>
    takeBack(forPerson(context, request), idOf(params), request),
  );
  send(router, 'reportPage', async (params, response, request) => {
    const { language } = wordsFor(request);
    const { bytes, fileName } = await reportOf(context, idOf(params), 'html', language);
    if (request.query['save'] !== undefined) response.attachment(fileName);
    response.set({
      'Content-Type': 'text/html; charset=utf-8',
      // The page holds its own style and pictures, and nothing that runs.
      'Content-Security-Policy': "default-src 'none'; img-src data:; style-src 'unsafe-inline'",
      'Cache-Control': 'private, no-store',
    });
    response.send(Buffer.from(bytes));
  });
  send(router, 'reportDocument', async (params, response, request) => {
    const paper = request.query['paper'] === 'letter' ? 'LETTER' : 'A4';
    const { language } = wordsFor(request);
    const { bytes, fileName } = await reportOf(context, idOf(params), paper, language);
    response.attachment(fileName);
    response.set({ 'Content-Type': 'application/pdf', 'Cache-Control': 'private, no-store' });
    response.send(Buffer.from(bytes));
  });
  answer(router, 'deliveries', async ({ params }) =>
    deliveriesOf(database, (await pictureRow(database, idOf(params))).id),
  );
  answer(router, 'stopDelivery', async ({ params }) => {
    await stopDelivery(context, checkId(params.delivery, 'delivery'));
    return undefined;
  });
  answer(router, 'deliver', ({ params, body }) => orderDelivery(context, idOf(params), body));

  return router;
}
