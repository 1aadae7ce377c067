import { said } from '@fennip/words';
import { describeFormat } from '@fennip/core/picture';
import { PictureError } from '../errors/pictureError.ts';
import type { FlatFormat } from '../write/writers.ts';
import { FLAT_FORMATS } from '../write/writers.ts';

/** The format that a file name's ending asks for. @throws PictureError for any other ending */
export function formatOfName(name: string): FlatFormat {
  const ending = /\.([a-z]+)$/i.exec(name)?.[1]?.toLowerCase() ?? '';
  const format = FLAT_FORMATS.find((one) => describeFormat(one).endings.includes(ending));
  if (format) return format;
  const usual = FLAT_FORMATS.map((one) => `.${describeFormat(one).endings[0]}`);
  throw new PictureError(
    'unsupported',
    said('file.ending', {
      name,
      endings: said('list.or', { some: usual.slice(0, -1).join(', '), last: usual[usual.length - 1] }),
    }),
  );
}
