import type { Context } from '../context/context.ts';
import { deliver, giveUpDelivering } from '../deliver/deliveries.ts';
import { checkMended, giveUpChecking } from '../examine/checkMended.ts';
import { examinePicture, giveUpExamining } from '../examine/examinePicture.ts';
import { giveUpPreparing, preparePicture } from '../pictures/preparePicture.ts';
import type { Works } from '../queue/work.ts';
import { carryOutPiece, giveUpPiece } from '../runs/carryOutPiece.ts';

/** The background work on single pictures. */
export const pictureWorks = (context: Context): Works => ({
  prepare: {
    run: (id) => preparePicture(context, id),
    giveUp: (id, reason) => giveUpPreparing(context, id, reason),
    waitsForRoom: true,
  },
  examine: {
    run: (id) => examinePicture(context, id),
    giveUp: (id, reason) => giveUpExamining(context, id, reason),
  },
  check: {
    run: (id) => checkMended(context, id),
    giveUp: (id, reason) => giveUpChecking(context, id, reason),
  },
  deliver: {
    run: (id) => deliver(context, id),
    giveUp: (id, reason) => giveUpDelivering(context, id, reason),
  },
});

/** The background work of runs over many pictures. */
export const pieceWorks = (context: Context): Works => ({
  piece: {
    run: (key) => carryOutPiece(context, key),
    giveUp: (key, reason) => giveUpPiece(context, key, reason),
  },
});
