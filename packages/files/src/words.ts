import type { FaultKind } from '@fennip/core/fault';
import type { FaultState } from '@fennip/core/ledger';
import type { Mend } from '@fennip/core/mend';

/** The words of a report and of layers: what the restorer calls things, one and many. */
export const KIND_WORDS: Readonly<Record<FaultKind, readonly [one: string, many: string]>> = {
  speck: ['speck', 'Specks'],
  fibre: ['fibre', 'Fibres'],
  scratch: ['scratch', 'Scratches'],
  crease: ['crease', 'Creases'],
  tear: ['tear', 'Tears'],
  loss: ['loss', 'Losses'],
  stain: ['stain', 'Stains'],
  veil: ['veil', 'Veils'],
  moire: ['moire', 'Moire'],
  ghost: ['ghost', 'Ghosts'],
  smudge: ['smudge', 'Smudges'],
  intruder: ['real thing', 'Real things'],
};

export const STATE_WORDS: Readonly<Record<FaultState, string>> = {
  mended: 'mended',
  lessened: 'lessened',
  open: 'open',
  'set aside': 'set aside',
  dismissed: 'dismissed',
};

/** A method as it is named, and what it does in plain words. */
export const METHOD_WORDS: Readonly<Record<Mend['method'], readonly [name: string, does: string]>> = {
  recover: [
    'recovered',
    'the shadow, the added light or the tint was measured and taken out; the detail under it is the picture’s own',
  ],
  heal: [
    'healed',
    'texture was taken from elsewhere in the picture; tone and colour are those of the surroundings',
  ],
  clone: ['cloned', 'a piece from elsewhere in the picture was copied as it is'],
  bridge: ['bridged', 'a thin line was closed from both of its sides'],
  rebuild: [
    'rebuilt',
    'what was gone was made anew from the rest of the picture; it is believable, not known',
  ],
  sift: ['sifted', 'small specks in an area were taken out by a rank filter; the grain was put back'],
  regrain: ['regrained', 'the picture’s own grain was put where it was missing'],
  tone: ['toned', 'lightness or colour of a part was changed'],
  soften: ['softened', 'a part was blurred'],
  match: ['matched', 'tone and colour of a part were brought to those of its surroundings'],
  shift: ['shifted', 'a part was held against itself, moved by a few pixels'],
  draw: ['drawn', 'lost detail was drawn by hand'],
  return: ['brought back', 'a part was changed in another program and brought back'],
};
