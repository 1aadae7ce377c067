import { MOST_RIM, RIM_LOOK, rimWidth } from '../../examine/areas/rimWidth.ts';
import type { Pixels } from '../../raster/pixels.ts';
import type { PictureShape } from '../../raster/raster.ts';
import type { Rect } from '../../raster/rect.ts';
import { intersectRects, isEmpty, uniteRects } from '../../raster/rect.ts';
import { pictureRect } from '../../raster/window.ts';
import type { Target } from '../../target/target.ts';
import { targetBounds } from '../../target/targetBounds.ts';
import { widenTear, widestTear } from '../auto/widenTear.ts';
import { fitRelief } from '../bridge/relief/fitRelief.ts';
import type { MendSurroundings, MendWish, MethodChoice } from '../mendWish.ts';
import type { MendProposal } from '../proposeMend.ts';
import { marginFor, proposalReads, proposeMend } from '../proposeMend.ts';
import { OUTLINE_MARGIN } from './faultPlaces.ts';
import type { FaultToMend } from './faultToMend.ts';

/** What of a fault says where it lies. */
export type FaultShape = Pick<FaultToMend, 'x' | 'y' | 'r' | 'path' | 'outline'>;

/**
 * The shape of a fault, as what a mend is aimed at.
 *
 * @returns in pixels of the upright original
 */
export function faultTarget({ x, y, r, path, outline }: FaultShape): Target {
  if (outline) return { shape: 'outline', points: outline };
  return path ? { shape: 'stroke', points: path, width: 2 * r } : { shape: 'disc', x, y, r };
}

/** The widest a mend for a fault may reach beyond it. */
const mostMargin = (fault: FaultToMend): number =>
  fault.outline ? OUTLINE_MARGIN + MOST_RIM : marginFor(fault);

/** How far the mend for a fault reaches beyond it: over the rim of what was torn off. */
function marginOf(fault: FaultToMend, pixels: Pixels): number {
  const { outline, kind, isExact } = fault;
  if (isExact) return 0;
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
  ...(fault.isExact ? { edge: 0 } : {}),
});

/** The rectangle that is looked at to mend a fault. */
export function faultReads(fault: FaultToMend, picture: PictureShape): Rect {
  if (!fault.path) return proposalReads(wishFor(fault, faultTarget(fault), mostMargin(fault)), picture);
  const { target, reads } = widestTear(fault.path, 2 * fault.r, fault.kind, picture);
  return uniteRects(proposalReads(wishFor(fault, target, mostMargin(fault)), picture), reads);
}

/** How far beyond its width as it was found the crack of a crease reaches, in pixels. */
const CRACK_BORDER = 1.2;

/**
 * A mend for one fault.
 *
 * @param pixels encoded values of what {@link faultReads} asks for, without mends
 */
export const mendFault = (
  fault: FaultToMend,
  surroundings: MendSurroundings,
  pixels: Pixels,
  choice: MethodChoice = 'auto',
): MendProposal => {
  const target = fault.path ? widenTear(fault.path, 2 * fault.r, fault, pixels) : faultTarget(fault);
  const wish = wishFor(fault, target, marginOf(fault, pixels));
  const proposal = proposeMend(wish, surroundings, pixels, choice);
  const { mend } = proposal;
  if (fault.kind !== 'crease' || mend.method !== 'bridge' || mend.target.shape !== 'stroke') return proposal;
  // Where the crack is torn open it is wider than along most of its course: there its own border would be taken for relief.
  const relief = fitRelief(mend.target.points, 2 * (fault.r + CRACK_BORDER), pixels);
  return relief ? { ...proposal, mend: { ...mend, relief } } : proposal;
};
