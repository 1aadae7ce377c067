import type { Request } from 'express';
import { Router } from 'express';
import type { EditAnswer, HistoryStep, PictureSheet } from '@fennip/contract';
import {
  DeliveryRequestSchema,
  EditRequestSchema,
  ExamineRequestSchema,
  PictureChangeSchema,
  TurnBackSchema,
} from '@fennip/contract';
import { checkerOf } from '@fennip/contract/check';
import type { Context } from '../context/context.ts';
import { takeBack } from '../deliver/takeBack.ts';
import { reportOf } from '../deliver/report.ts';
import { deliveriesOf, orderDelivery } from '../deliver/deliveries.ts';
import { orderCheck } from '../examine/checkMended.ts';
import { orderExamination, stopExamination } from '../examine/examinePicture.ts';
import { faultsOf } from '../rows/faultRows.ts';
import { findingsOf } from '../rows/findingRows.ts';
import { edit, historyOf, redo, undo } from '../history/history.ts';
import { readRecipe } from '../rows/worksheetRows.ts';
import { checkId, pictureById, pictureRow } from '../rows/pictureRows.ts';
import { changePicture } from '../pictures/changePicture.ts';
import { cropImage } from '../pictures/cropImage.ts';
import { proposeMend } from '../runs/proposeMend.ts';
import { removePicture } from '../pictures/removePicture.ts';
import { notFound } from '../errors/refusal.ts';
import { wordsFor } from './wordsFor.ts';

const checkEdit = checkerOf(EditRequestSchema);
const checkTurnBack = checkerOf(TurnBackSchema);
const checkExamine = checkerOf(ExamineRequestSchema);
const checkPictureChange = checkerOf(PictureChangeSchema);
const checkDelivery = checkerOf(DeliveryRequestSchema);

async function sheetOf({ database }: Context, id: string): Promise<PictureSheet> {
  const row = await pictureRow(database, id);
  const [picture, faults, recipe, history] = await Promise.all([
    pictureById(database, id),
    faultsOf(database, id),
    readRecipe(database, row),
    historyOf(database, id),
  ]);
  return { picture, ...faults, nextFault: row.next_fault, recipe, revision: row.revision, ...history };
}

/** The steps of a history in the language of the request. */
function withWords<T extends Pick<EditAnswer, 'done' | 'undone'>>(request: Request, answer: T): T {
  const { renderText } = wordsFor(request);
  const rendered = (steps: readonly HistoryStep[]): HistoryStep[] =>
    steps.map((step) => ({ ...step, words: renderText(step.words) }));
  return { ...answer, done: rendered(answer.done), undone: rendered(answer.undone) };
}

export function pictureRoutes(context: Context): Router {
  const router = Router();
  const idOf = (params: { picture: string }): string => checkId(params.picture, 'picture');

  router.get('/pictures/:picture', async (request, response) => {
    response.json(withWords(request, await sheetOf(context, idOf(request.params))));
  });

  router.patch('/pictures/:picture', async (request, response) => {
    const id = idOf(request.params);
    await changePicture(context, id, checkPictureChange(request.body));
    response.json(await pictureById(context.database, id));
  });

  router.delete('/pictures/:picture', async (request, response) => {
    await removePicture(context, idOf(request.params));
    response.status(204).end();
  });

  router.post('/pictures/:picture/examination', async (request, response) => {
    await orderExamination(context, idOf(request.params), checkExamine(request.body));
    response.status(202).json(await pictureById(context.database, request.params.picture));
  });

  router.delete('/pictures/:picture/examination', async (request, response) => {
    await stopExamination(context, idOf(request.params));
    response.status(204).end();
  });

  router.post('/pictures/:picture/check', async (request, response) => {
    const id = idOf(request.params);
    await orderCheck(context, id);
    response.status(202).json(await pictureById(context.database, id));
  });

  router.get('/pictures/:picture/findings', async (request, response) => {
    const { database } = context;
    const row = await pictureRow(database, idOf(request.params));
    response.json((await findingsOf(database, row)) ?? []);
  });

  router.get('/pictures/:picture/crop', async (request, response) => {
    const row = await pictureRow(context.database, idOf(request.params));
    const [x, y, half] = ['x', 'y', 'half'].map((name) => Number(request.query[name]));
    if (!(Number.isFinite(x) && Number.isFinite(y) && half >= 1 && half <= 5000)) throw notFound('place');
    const image = await cropImage(context, row, { x, y, half });
    if (!image) throw notFound('place');
    response.set({ 'Content-Type': 'image/png', 'Cache-Control': 'private, max-age=31536000, immutable' });
    response.send(image);
  });

  router.get('/pictures/:picture/faults/:fault/proposal', async (request, response) => {
    const row = await pictureRow(context.database, idOf(request.params));
    response.json(await proposeMend(context, row, request.params.fault));
  });

  router.post('/pictures/:picture/edits', async (request, response) => {
    const asked = checkEdit(request.body);
    response.json(withWords(request, await edit(context, idOf(request.params), asked.revision, asked.edit)));
  });

  router.post('/pictures/:picture/undo', async (request, response) => {
    const { revision } = checkTurnBack(request.body);
    response.json(withWords(request, await undo(context, idOf(request.params), revision)));
  });

  router.post('/pictures/:picture/redo', async (request, response) => {
    const { revision } = checkTurnBack(request.body);
    response.json(withWords(request, await redo(context, idOf(request.params), revision)));
  });

  router.post('/pictures/:picture/return', async (request, response) => {
    response.json(await takeBack(context, idOf(request.params), request));
  });

  router.get('/pictures/:picture/report.html', async (request, response) => {
    const { bytes, fileName } = await reportOf(
      context,
      idOf(request.params),
      'html',
      wordsFor(request).language,
    );
    if (request.query['save'] !== undefined) response.attachment(fileName);
    response.set({
      'Content-Type': 'text/html; charset=utf-8',
      // The page holds its own style and pictures, and nothing that runs.
      'Content-Security-Policy': "default-src 'none'; img-src data:; style-src 'unsafe-inline'",
      'Cache-Control': 'private, no-store',
    });
    response.send(Buffer.from(bytes));
  });

  router.get('/pictures/:picture/report.pdf', async (request, response) => {
    const paper = request.query['paper'] === 'letter' ? 'LETTER' : 'A4';
    const { bytes, fileName } = await reportOf(
      context,
      idOf(request.params),
      paper,
      wordsFor(request).language,
    );
    response.attachment(fileName);
    response.set({ 'Content-Type': 'application/pdf', 'Cache-Control': 'private, no-store' });
    response.send(Buffer.from(bytes));
  });

  router.get('/pictures/:picture/deliveries', async (request, response) => {
    response.json(await deliveriesOf(context.database, idOf(request.params)));
  });

  router.post('/pictures/:picture/deliveries', async (request, response) => {
    const delivery = await orderDelivery(context, idOf(request.params), checkDelivery(request.body));
    response.status(202).json(delivery);
  });

  return router;
}
