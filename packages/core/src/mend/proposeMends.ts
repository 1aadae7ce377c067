import type { Fault } from '../examine/fault.ts';
import type { Pixels } from '../raster/pixels.ts';
import type { Place } from '../source/occupied.ts';
import type { HealMend } from './mend.ts';
import { marginFor, proposeMend, sourcePlace } from './proposeMend.ts';

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

/** A mend for each fault, in their order, no source on any of them and none used over and over. */
export function proposeMends(
  faults: readonly FaultToMend[],
  pixels: Pixels,
  done?: (count: number) => void,
): HealMend[] {
  const avoid = faults.map(faultPlace);
  const used: Place[] = [];
  return faults.map((fault, index) => {
    const { mend } = proposeMend(
      {
        id: fault.id,
        target: { shape: 'disc', x: fault.x, y: fault.y, r: fault.r },
        margin: marginFor(fault),
        ...(fault.fault === undefined ? {} : { fault: fault.fault }),
      },
      { avoid, used },
      pixels,
    );
    const place = sourcePlace(mend);
    if (place) used.push(place);
    done?.(index + 1);
    return mend;
  });
}
