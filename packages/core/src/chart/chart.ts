import type { Particle } from './particle.ts';
import type { Placement, SensorShape } from './sensor.ts';

/** A frame that a chart is made from. */
export interface ChartFrame {
  readonly placement: Placement;
  /** null where it is not known. */
  readonly fNumber: number | null;
  /** A picture of nothing, a defocused sky or wall, taken to show the dust. */
  readonly isReference: boolean;
}

/** What one frame says about a place. */
export interface Evidence {
  /** Index of the frame. */
  readonly frame: number;
  /** How much more likely the frame is with the shadow undone, in units of log likelihood; below 0 it speaks against. */
  readonly evidence: number;
  /** Share of the light taken at the shadow's middle, as this frame alone shows it, and its standard error. */
  readonly depth: number;
  readonly error: number;
}

/** A dirty place of a sensor. */
export interface ChartEntry {
  readonly number: number;
  readonly particle: Particle;
  /** How far its rims stand out over all frames, in standard deviations of what chance gives. */
  readonly z: number;
  /** Probability of being dirt, 0 to 1. */
  readonly confidence: number;
  readonly evidence: readonly Evidence[];
}

export interface DustChart {
  readonly sensor: SensorShape;
  readonly entries: readonly ChartEntry[];
}
