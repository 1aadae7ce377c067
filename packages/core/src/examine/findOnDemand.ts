import type { Fault } from '../fault/fault.ts';
import type { FaultKind } from '../fault/kinds.ts';
import type { Raster } from '../raster/raster.ts';
import { smudgesOn } from './smudges/findSmudges.ts';
import { findWires } from './wires/findWires.ts';

/** What looks for each kind that is looked for only when it is asked for. */
export const ON_DEMAND_FINDERS: Readonly<Partial<Record<FaultKind, (raster: Raster) => Fault[]>>> = {
  smudge: smudgesOn,
  intruder: findWires,
};

/**
 * Looks for what no examination looks for by itself.
 *
 * @param raster the whole picture, encoded values, 8 or 16 bit
 * @param kinds kinds that are asked for; those of which nothing is found on demand are passed over
 */
export const findOnDemand = (raster: Raster, kinds: readonly FaultKind[]): Fault[] =>
  kinds.flatMap((kind) => ON_DEMAND_FINDERS[kind]?.(raster) ?? []);
