export type { Said, Value, Values, WordKey } from './said.ts';
export { packed, said, saidCount, unpacked } from './said.ts';
export { SaidError } from './saidError.ts';
export type { Language, SpokenWords } from './wordsIn.ts';
export { LANGUAGE_NAMES, chooseLanguage, isWordKey, wordsIn } from './wordsIn.ts';
