import type { Scene, Vector } from '../render/scene.ts';
import { scene as viaduct } from './viaduct.ts';

/** A frame of the shoot along the line: from where, what it looks at, and how it was taken. */
export interface Shot {
  readonly number: number;
  readonly eye: Vector;
  readonly lookAt: Vector;
  readonly spread: number;
  readonly fNumber: number;
  readonly exposureTime: number;
  /** `hh:mm:ss` of the morning of the shoot. */
  readonly at: string;
}

/** The frames of the shoot beside the third, which shows the viaduct from the meadow. */
export const SHOTS = {
  lineShoot1: shot(1, [40, 14, 20], [10, 20, 60], 0.5, 8, 1 / 500, '09:31:04'),
  lineShoot2: shot(2, [-20, 8, 10], [-60, 40, 200], 0.4, 11, 1 / 250, '09:36:47'),
  lineShoot4: shot(4, [6, 6, 46], [4, 16, 60], 0.6, 11, 1 / 200, '09:51:30'),
  lineShoot5: shot(5, [-16, 30, 44], [-4, 27, 60], 0.3, 5.6, 1 / 1000, '09:58:12'),
  lineShoot6: shot(6, [0, 60, -120], [0, 20, 80], 0.28, 8, 1 / 400, '10:14:55'),
  lineShoot7: shot(7, [60, 12, 0], [120, 60, 400], 0.45, 16, 1 / 100, '10:21:09'),
  lineShoot8: shot(8, [-55, 32, 40], [0, 24, 60], 0.35, 4, 1 / 1600, '10:40:38'),
} as const satisfies Record<string, Shot>;

function shot(
  number: number,
  eye: Vector,
  lookAt: Vector,
  spread: number,
  fNumber: number,
  exposureTime: number,
  at: string,
): Shot {
  return { number, eye, lookAt, spread, fNumber, exposureTime, at };
}

/** The same valley from where a frame was taken. */
export const sceneOf = ({ eye, lookAt, spread }: Shot): Scene => ({ ...viaduct, eye, lookAt, spread });
