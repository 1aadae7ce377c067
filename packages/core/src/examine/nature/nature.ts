import type { Polarity } from '../../fault/fault.ts';
import type { FaultKind } from '../../fault/kinds.ts';
import { FAULT_KINDS, describeKind } from '../../fault/kinds.ts';

/**
 * What a picture is. Each has flaws of its own: a camera frame has soft shadows of what lies before its sensor and discs of
 * what floats before its lens; a scanned print has hard dust, holes and lines through its emulsion, and can lose pieces.
 */
export type PictureNature = 'frame' | 'print';

export const NATURES = ['frame', 'print'] as const satisfies readonly PictureNature[];

/** True if a picture of this nature can carry a fault of this kind; what a finder takes for one there is the subject's own. */
export const canCarry = (nature: PictureNature, kind: FaultKind): boolean =>
  nature === 'print' || !describeKind(kind).isOnPrintsOnly;

/** The kinds that a picture of this nature can carry, in the order of {@link FAULT_KINDS}. */
export const kindsOn = (nature: PictureNature): FaultKind[] =>
  FAULT_KINDS.filter((kind) => canCarry(nature, kind));

/**
 * The polarities that a run over many pictures looks for. Dust before a sensor only darkens; on a print dust, holes and
 * scratches do either.
 */
export const usualPolarities = (nature: PictureNature): readonly Polarity[] =>
  nature === 'frame' ? ['dark'] : ['dark', 'bright'];
