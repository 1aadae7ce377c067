import type { Fault } from '../examine/fault.ts';
import type { Pixels } from '../raster/pixels.ts';
import type { Place } from '../source/occupied.ts';
import type { PictureShape } from '../raster/raster.ts';
import type { Rect } from '../raster/rect.ts';
import type { HealMend } from './mend.ts';
import type { MendProposal, MendSurroundings, MendWish } from './proposeMend.ts';
import { marginFor, proposalReads, proposeMend, sourcePlace } from './proposeMend.ts';

/** A fault that is to be mended, under the id its mend will have. */
export interface FaultToMend extends Pick<Fault, 'x' | 'y' | 'r' | 'softness'> {
  readonly id: string;
  readonly fault?: string;
}

/** The whole place of a fault: no source may touch even its soft border. */
export const faultPlace = (fault: Pick<Fault, 'x' | 'y' | 'r' | 'softness'>): Place => ({
  x: fault.x,
  y: fault.y,
  r: fault.r + marginFor(fault),
});

/** Makes the mend for one fault. */
const wishFor = (fault: FaultToMend): MendWish => ({
  id: fault.id,
  target: { shape: 'disc', x: fault.x, y: fault.y, r: fault.r },
  margin: marginFor(fault),
  ...(fault.fault === undefined ? {} : { fault: fault.fault }),
});

/** The rectangle that is looked at to mend a fault. */
export const faultReads = (fault: FaultToMend, picture: PictureShape): Rect =>
  proposalReads(wishFor(fault), picture);

/** A mend for one fault. */
export const mendFault = (fault: FaultToMend, surroundings: MendSurroundings, pixels: Pixels): MendProposal =>
  proposeMend(wishFor(fault), surroundings, pixels);

/** A mend for each fault, in their order, no source on any of them and none used over and over. */
export function proposeMends(faults: readonly FaultToMend[], pixels: Pixels): HealMend[] {
  const avoid = faults.map(faultPlace);
  const used: Place[] = [];
  return faults.map((fault) => {
    const { mend } = mendFault(fault, { avoid, used }, pixels);
    const place = sourcePlace(mend);
    if (place) used.push(place);
    return mend;
  });
}
