import type { Source } from '../../source/source.ts';
import type { MaskTarget } from '../../target/target.ts';
import type { Veil } from '../../veil/veil.ts';
import type { MendBase } from '../mendBase.ts';
import type { LineVeil } from './line/lineVeil.ts';
import type { StainVeil } from './stain/stain.ts';
import type { Tint } from './tint.ts';

/**
 * Undoes a shadow, a lit veil or a stain's tint in linear light and keeps the picture's own detail. Where too little
 * light came through, the middle is healed from the source; that of a line is closed from its sides.
 */
export interface RecoverMend extends MendBase {
  readonly method: 'recover';
  /**
   * A disc with a penumbra (dust, a lit particle), a line with shoulders (a scratch), a stain that dried along its
   * border, or a smooth tint where there is no border to tell it by.
   */
  readonly veil: Veil | LineVeil | Tint | StainVeil;
  readonly source: Source | null;
  /** Of a line: what other faults hid when it was made. It is not closed from there, and closed where they cross it. */
  readonly avoid?: MaskTarget;
}
