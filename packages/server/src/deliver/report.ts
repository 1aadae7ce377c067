import type { Language } from '@fennip/words';
import { wordsIn } from '@fennip/words';
import type { ReportPaper } from '@fennip/files';
import type { Context } from '../context/context.ts';
import { notFound } from '../errors/refusal.ts';
import { readLedger } from '../rows/readLedger.ts';
import { pictureRow } from '../rows/pictureRows.ts';

/** A condition report of a picture as it is now. */
export async function reportOf(
  { database, store, threads, gate }: Context,
  pictureId: string,
  as: 'html' | ReportPaper,
  language: Language,
): Promise<{ bytes: Uint8Array; fileName: string }> {
  const picture = await pictureRow(database, pictureId);
  if (picture.state !== 'ready') throw notFound('prepared picture');
  const { entries, worksheet } = await readLedger(database, picture);
  const { name: job } = await database('jobs').where('id', picture.job_id).first('name');
  // The picture as it came, as it is mended, and as it is finished.
  const pixels = 3 * picture.width * picture.height;
  const report = {
    original: store.pathOf('originals', picture.sha256),
    entries,
    facts: {
      job,
      picture: picture.name,
      language,
      date: new Date().toISOString(),
      nature: picture.nature,
      density: picture.density,
    },
    as,
  };
  const bytes = await gate.run(pixels, () => threads.report(worksheet.recipe, report));
  const stem = picture.name.replace(/\.[^.]*$/, '');
  return {
    bytes,
    fileName: `${stem} ${wordsIn(language).say('report.title').toLowerCase()}.${as === 'html' ? 'html' : 'pdf'}`,
  };
}
