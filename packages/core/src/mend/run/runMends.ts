import type { Pixels } from '../../raster/pixels.ts';
import type { PictureShape } from '../../raster/raster.ts';
import { growRect } from '../../raster/rect.ts';
import type { Mend } from '../mend.ts';
import type { MendSurroundings, MethodChoice } from '../mendWish.ts';
import type { MendProposal } from '../proposeMend.ts';
import { placesUsedBy, takenPlaces } from './faultPlaces.ts';
import type { FaultToMend } from './faultToMend.ts';
import type { Runs } from './independentRuns.ts';
import { independentRuns } from './independentRuns.ts';
import { isGuarded } from './isGuarded.ts';
import { faultReads } from './mendFault.ts';
import { mendsInTurn } from './mendsInTurn.ts';

/** What is needed of a proposal: whoever makes mends elsewhere need not send more. */
type Made = Pick<MendProposal, 'mend'>;

/** Makes a mend for each fault of a part of a run, in their order, here or in another thread. */
export type MendMaker<P extends Made = MendProposal> = (
  faults: readonly FaultToMend[],
  surroundings: MendSurroundings,
) => Promise<readonly P[]>;

/** What a run over many faults gave. */
export interface MendRun<P extends Made = MendProposal> {
  /** A mend for each fault that could be mended, in the order of the faults. */
  readonly proposals: readonly P[];
  /** Faults under a guard. They stay open. */
  readonly guarded: readonly FaultToMend[];
}

/** A source may reach a little beyond where it was looked for: refining and edge fit move it, in pixels. */
const SOURCE_SLACK = 16;

/** Faults stage by stage: the parts of one stage cannot meet, and what looks across their borders waits for the next. */
function partsOf(faults: readonly FaultToMend[], picture: PictureShape): Runs<FaultToMend>['runs'][] {
  const stages: Runs<FaultToMend>['runs'][] = [];
  for (let left = faults; left.length > 0;) {
    const { runs, rest } = independentRuns(left, (fault) =>
      growRect(faultReads(fault, picture), SOURCE_SLACK),
    );
    stages.push(runs);
    left = rest;
  }
  return stages;
}

function inOrderOf<P extends Made>(faults: readonly FaultToMend[], proposals: readonly P[]): P[] {
  const byId = new Map(proposals.map((proposal) => [proposal.mend.id, proposal]));
  return faults.flatMap(({ id }) => byId.get(id) ?? []);
}

/** Parts of a run that cannot meet, and what their mends must keep clear of. */
interface Stage {
  readonly parts: readonly (readonly FaultToMend[])[];
  readonly surroundings: MendSurroundings;
}

/** The stages of a run, one after the other: each takes the mends that its parts gave. */
function* stagesOfRun<P extends Made>(
  faults: readonly FaultToMend[],
  surroundings: MendSurroundings,
  picture: PictureShape,
): Generator<Stage, MendRun<P>, readonly P[]> {
  const fences = surroundings.fences ?? [];
  const guarded = faults.filter((fault) => isGuarded(fault, fences, picture));
  const open = guarded.length === 0 ? faults : faults.filter((fault) => !guarded.includes(fault));
  const made: P[] = [];
  for (const parts of partsOf(open, picture)) {
    const used = [...surroundings.used, ...placesUsedBy(made.map(({ mend }) => mend))];
    made.push(...(yield { parts, surroundings: { ...surroundings, used } }));
  }
  return { proposals: inOrderOf(open, made), guarded };
}

/**
 * Makes a mend for each fault that no guard covers. Each is made on the picture without the others: what lies on another
 * fault says nothing. No source lies on a fault, and none is used over and over.
 *
 * Parts of the run that cannot meet are made at the same time, in as many threads as `make` has; what reads across their
 * borders comes after them. How the run is parted depends on the faults alone, so the result is the same for any number
 * of threads.
 */
export async function runMends<P extends Made>(
  faults: readonly FaultToMend[],
  surroundings: MendSurroundings,
  picture: PictureShape,
  make: MendMaker<P>,
): Promise<MendRun<P>> {
  const stages = stagesOfRun<P>(faults, surroundings, picture);
  let stage = stages.next([]);
  while (!stage.done) {
    const { parts, surroundings: around } = stage.value;
    stage = stages.next((await Promise.all(parts.map((part) => make(part, around)))).flat());
  }
  return stage.value;
}

/** Makes a mend for each fault on this thread: what {@link runMends} makes, part by part. */
export function runMendsHere(
  faults: readonly FaultToMend[],
  surroundings: MendSurroundings,
  pixels: Pixels,
  choice: MethodChoice = 'auto',
): MendRun {
  const stages = stagesOfRun<MendProposal>(faults, surroundings, pixels.shape);
  let stage = stages.next([]);
  while (!stage.done) {
    const { parts, surroundings: around } = stage.value;
    stage = stages.next(parts.flatMap((part) => part.map(mendsInTurn(around, pixels, choice))));
  }
  return stage.value;
}

/**
 * A mend for each of some faults that are all the faults there are, on a picture without mends and fences.
 *
 * @param pixels encoded values, 8 or 16 bit, of the whole upright picture
 */
export const proposeMends = (
  faults: readonly FaultToMend[],
  pixels: Pixels,
  choice: MethodChoice = 'auto',
): Mend[] =>
  runMendsHere(faults, { avoid: takenPlaces(faults), used: [] }, pixels, choice).proposals.map(
    ({ mend }) => mend,
  );
