import type { Step, Worksheet } from '@fennip/core/recipe';
import type { Context } from '../context/context.ts';
import { edit } from '../history/history.ts';
import { readWorksheet } from '../rows/worksheetRows.ts';
import { Refusal } from '../errors/refusal.ts';
import { pictureRow } from '../rows/pictureRows.ts';

/** How often an edit is made anew when someone else changed the picture meanwhile. */
const MOST_TRIES = 6;

/**
 * Edits a picture as it stands now. Where it changed meanwhile the steps are made anew, on what is there then.
 *
 * @param stepsFor none means that there is nothing to do
 */
export async function editPicture(
  context: Context,
  id: string,
  words: string,
  stepsFor: (worksheet: Worksheet) => readonly Step[],
): Promise<void> {
  for (let tried = 1; ; tried++) {
    const row = await pictureRow(context.database, id);
    const steps = stepsFor(await readWorksheet(context.database, row));
    if (steps.length === 0) return;
    try {
      await edit(context, id, row.revision, { words, steps });
      return;
    } catch (error) {
      if (!(error instanceof Refusal) || error.reason !== 'changed meanwhile' || tried >= MOST_TRIES)
        throw error;
    }
  }
}
