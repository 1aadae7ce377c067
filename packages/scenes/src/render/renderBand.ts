import type { Frame } from './renderRows.ts';
import { renderRows } from './renderRows.ts';
import type { SceneName } from '../pictures/scenes.ts';
import { SCENES } from '../pictures/scenes.ts';

/** A band of rows of one picture. */
export interface BandOrder {
  readonly picture: SceneName;
  readonly frame: Frame;
  readonly from: number;
  readonly to: number;
}

/** Renders a band; runs in a thread of its own. */
export default function renderBand({ picture, frame, from, to }: BandOrder): Float32Array {
  return renderRows(SCENES[picture], frame, from, to);
}
