import type { Language, SpokenWords } from '@fennip/words';
import { LANGUAGE_NAMES, chooseLanguage, wordsIn } from '@fennip/words';

const KEPT = 'fennip language';

const isLanguage = (name: string | null): name is Language =>
  name !== null && Object.hasOwn(LANGUAGE_NAMES, name);

/** The language that was chosen on this machine, else the first that the browser wishes and that there are words in. */
function languageNow(): Language {
  const kept = typeof localStorage === 'undefined' ? null : localStorage.getItem(KEPT);
  return isLanguage(kept)
    ? kept
    : chooseLanguage(typeof navigator === 'undefined' ? [] : navigator.languages);
}

/** The words of the page; they stay the same until it is loaded anew. */
export const words: SpokenWords = wordsIn(languageNow());

/** The tag by which numbers and days are written. */
export const locale = words.language === 'en' ? 'en-GB' : words.language;

/** Takes another language, and loads the page anew in it. */
export function takeLanguage(language: Language): void {
  localStorage.setItem(KEPT, language);
  location.reload();
}
