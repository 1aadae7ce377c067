import type { SpokenWords } from '@fennip/words';
import { chooseLanguage, wordsIn } from '@fennip/words';
import type { Request } from 'express';

/** The words in the language that a request asks for: by `?language=`, else by its `Accept-Language`. */
export function wordsFor(request: Request): SpokenWords {
  const asked = request.query['language'];
  return wordsIn(chooseLanguage(typeof asked === 'string' ? [asked] : request.acceptsLanguages()));
}
