import { MOST_RIM, RIM_LOOK, rimWidth } from '../examine/areas/rimWidth.ts';
import type { Fault } from '../examine/fault.ts';
import type { Pixels } from '../raster/pixels.ts';
import type { PictureShape } from '../raster/raster.ts';
import type { Rect } from '../raster/rect.ts';
import { growRect, intersectRects, isEmpty, uniteRects } from '../raster/rect.ts';
import { pictureRect } from '../raster/window.ts';
import type { Place } from '../source/occupied.ts';
import type { Point, Target } from '../target/target.ts';
import { targetBounds } from '../target/targetBounds.ts';
import { distanceToOutline } from '../target/targetDistance.ts';
import { fitRelief } from './bridge/relief/fitRelief.ts';
import { gapingLine, gapingMost } from './auto/gapingLine.ts';
import type { Runs } from './independentRuns.ts';
import { independentRuns } from './independentRuns.ts';
import type { Mend } from './mend.ts';
import type { MendSurroundings, MendWish, MethodChoice } from './mendWish.ts';
import type { MendProposal } from './proposeMend.ts';
import type { KnownVeil } from './recover/veil.ts';
import { marginFor, proposalReads, proposeMend, sourcePlace } from './proposeMend.ts';

/** A fault that is to be mended, under the id its mend will have. */
export interface FaultToMend
  extends Pick<Fault, 'x' | 'y' | 'r' | 'softness'>, Partial<Pick<Fault, 'polarity' | 'kind'>> {
  readonly id: string;
  readonly fault?: string;
  /** The course of a line; `r` is then half its width. */
  readonly path?: readonly Point[];
  /** The border of an area; `r` is then the radius of a disc as large. */
  readonly outline?: readonly Point[];
  /** The zone that bounds its mend, by id. */
  readonly zone?: string;
  /** What a dust chart knows of it. */
  readonly known?: KnownVeil;
}

/** The whole place of a fault: no source may touch even its soft border. */
export const faultPlace = (fault: Pick<Fault, 'x' | 'y' | 'r' | 'softness'>): Place => ({
  x: fault.x,
  y: fault.y,
  r: fault.r + marginFor(fault),
});

/** How far apart the round places lie that stand for a line. */
const PLACE_STEP = 2;

/** The places a fault takes up: one for a spot, a row of them for a line. */
function placesOf(fault: FaultToMend): Place[] {
  const whole = faultPlace(fault);
  if (fault.outline) return placesInside(fault.outline, OUTLINE_MARGIN);
  if (!fault.path) return [whole];
  return fault.path.flatMap(([x, y], i, path): Place[] => {
    if (i === 0) return [{ x, y, r: whole.r }];
    const [px, py] = path[i - 1];
    const steps = Math.max(1, Math.ceil(Math.hypot(x - px, y - py) / (PLACE_STEP * whole.r)));
    return Array.from({ length: steps }, (_, k) => {
      const t = (k + 1) / steps;
      return { x: px + t * (x - px), y: py + t * (y - py), r: whole.r };
    });
  });
}

/** How far a mend reaches beyond an area's border, in pixels. */
const OUTLINE_MARGIN = 2;

/** How many round places stand for the longer side of an area. */
const AREA_PLACES = 16;

/** Round places that together cover an area and its soft border. */
function placesInside(outline: readonly Point[], margin: number): Place[] {
  const target = { shape: 'outline', points: outline } as const;
  const { left, top, width, height } = targetBounds(target, 0);
  const step = Math.max(1, Math.max(width, height) / AREA_PLACES);
  // A disc as wide as a cell's diagonal covers the cell.
  const r = step * Math.SQRT1_2 + margin;
  return Array.from({ length: Math.ceil(height / step) * Math.ceil(width / step) }, (_, i) => {
    const columns = Math.ceil(width / step);
    return { x: left + ((i % columns) + 0.5) * step, y: top + (Math.floor(i / columns) + 0.5) * step, r };
  }).filter(({ x, y }) => distanceToOutline(x, y, target) < step * Math.SQRT1_2);
}

/** The shape of a fault, as what a mend is aimed at. */
export function faultTarget({
  x,
  y,
  r,
  path,
  outline,
}: Pick<FaultToMend, 'x' | 'y' | 'r' | 'path' | 'outline'>): Target {
  if (outline) return { shape: 'outline', points: outline };
  return path ? { shape: 'stroke', points: path, width: 2 * r } : { shape: 'disc', x, y, r };
}

/** The widest a mend for a fault may reach beyond it. */
const mostMargin = (fault: FaultToMend): number =>
  fault.outline ? OUTLINE_MARGIN + MOST_RIM : marginFor(fault);

/** How far the mend for a fault reaches beyond it: over the rim of what was torn off. */
function marginOf(fault: FaultToMend, pixels: Pixels): number {
  const { outline, kind } = fault;
  if (!outline) return marginFor(fault);
  if (kind !== 'loss') return OUTLINE_MARGIN;
  const bounds = targetBounds({ shape: 'outline', points: outline }, RIM_LOOK);
  const rect = intersectRects(bounds, pictureRect(pixels.shape));
  return isEmpty(rect) ? OUTLINE_MARGIN : OUTLINE_MARGIN + rimWidth(outline, pixels.window(rect));
}

/** What is wished for a fault. @param target what the mend is aimed at */
const wishFor = (fault: FaultToMend, target: Target, margin: number): MendWish => ({
  id: fault.id,
  target,
  margin,
  ...(fault.polarity === undefined ? {} : { polarity: fault.polarity }),
  ...(fault.kind === undefined ? {} : { kind: fault.kind }),
  ...(fault.fault === undefined ? {} : { fault: fault.fault }),
  ...(fault.zone === undefined ? {} : { zone: fault.zone }),
  ...(fault.known === undefined ? {} : { known: fault.known }),
});

/** The rectangle that is looked at to mend a fault. */
export function faultReads(fault: FaultToMend, picture: PictureShape): Rect {
  if (!fault.path) return proposalReads(wishFor(fault, faultTarget(fault), mostMargin(fault)), picture);
  const { target, reads } = gapingMost(fault.path, 2 * fault.r, fault.kind, picture);
  return uniteRects(proposalReads(wishFor(fault, target, mostMargin(fault)), picture), reads);
}

/** How far beyond its width as it was found the crack of a crease reaches, in pixels. */
const CRACK_BORDER = 1.2;

/** A mend for one fault. */
export const mendFault = (
  fault: FaultToMend,
  surroundings: MendSurroundings,
  pixels: Pixels,
  choice: MethodChoice = 'auto',
): MendProposal => {
  const target = fault.path ? gapingLine(fault.path, 2 * fault.r, fault, pixels) : faultTarget(fault);
  const wish = wishFor(fault, target, marginOf(fault, pixels));
  const proposal = proposeMend(wish, surroundings, pixels, choice);
  const { mend } = proposal;
  if (fault.kind !== 'crease' || mend.method !== 'bridge' || mend.target.shape !== 'stroke') return proposal;
  // Where the crack is torn open it is wider than along most of its course: there its own border would be taken for relief.
  const relief = fitRelief(mend.target.points, 2 * (fault.r + CRACK_BORDER), pixels);
  return relief ? { ...proposal, mend: { ...mend, relief } } : proposal;
};

/** Whether nothing of the picture is seen where a fault lies: a line, or what is torn off. Specks and stains let light through. */
const hides = ({ path, kind }: FaultToMend): boolean =>
  path !== undefined || kind === 'loss' || kind === 'tear';

/** The places that are taken by faults: no source may lie on one of them. */
export const takenPlaces = (faults: readonly FaultToMend[]): Place[] =>
  faults.flatMap((fault) => {
    const places = placesOf(fault);
    return hides(fault) ? places.map((place) => ({ ...place, of: fault.fault ?? fault.id })) : places;
  });

/** Makes mends one after the other, none from a source that was used over and over. */
export function proposeRun(
  faults: readonly FaultToMend[],
  surroundings: MendSurroundings,
  pixels: Pixels,
  choice: MethodChoice = 'auto',
): Mend[] {
  const used = [...surroundings.used];
  return faults.map((fault) => {
    const { mend } = mendFault(fault, { ...surroundings, used }, pixels, choice);
    const place = sourcePlace(mend);
    if (place) used.push(place);
    return mend;
  });
}

/** Carries out a run of faults, here or elsewhere. */
export type RunMaker = (faults: readonly FaultToMend[], surroundings: MendSurroundings) => Promise<Mend[]>;

/**
 * A mend for each fault, in their order, no source on any of them and none used over and over. Each is made on the
 * picture without the others: what lies on another fault says nothing. Runs that cannot meet may be made at the same
 * time; what looks across their borders comes after them. The result is that of {@link proposeMends}.
 */
export async function shareMends(
  faults: readonly FaultToMend[],
  surroundings: MendSurroundings,
  picture: PictureShape,
  make: RunMaker,
): Promise<Mend[]> {
  const made: Mend[] = [];
  for (const runs of stagesOf(faults, picture)) {
    const around = afterMends(surroundings, made);
    made.push(...(await Promise.all(runs.map((run) => make(run, around)))).flat());
  }
  return inOrderOf(faults, made);
}

/** A mend for each fault, in their order: what {@link shareMends} does, on this thread. */
export function proposeMends(
  faults: readonly FaultToMend[],
  pixels: Pixels,
  choice: MethodChoice = 'auto',
): Mend[] {
  const surroundings = { avoid: takenPlaces(faults), used: [] };
  const made: Mend[] = [];
  for (const runs of stagesOf(faults, pixels.shape)) {
    const around = afterMends(surroundings, made);
    made.push(...runs.flatMap((run) => proposeRun(run, around, pixels, choice)));
  }
  return inOrderOf(faults, made);
}

/** A source may reach a little beyond where it was looked for: refining and edge fit move it, in pixels. */
const SOURCE_SLACK = 16;

/** Faults stage by stage: the runs of one stage cannot meet, and what looks across their borders waits for the next. */
function stagesOf(faults: readonly FaultToMend[], picture: PictureShape): Runs<FaultToMend>['runs'][] {
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

/** The places that mends take their sources from. */
export const placesUsedBy = (mends: readonly Mend[]): Place[] =>
  mends.map(sourcePlace).filter((place): place is Place => place !== null);

const afterMends = (surroundings: MendSurroundings, made: readonly Mend[]): MendSurroundings => ({
  ...surroundings,
  used: [...surroundings.used, ...placesUsedBy(made)],
});

function inOrderOf(faults: readonly FaultToMend[], mends: readonly Mend[]): Mend[] {
  const byId = new Map(mends.map((mend) => [mend.id, mend]));
  return faults.map(({ id }) => byId.get(id)).filter((mend): mend is Mend => mend !== undefined);
}
