import type { Pixels } from '../../raster/pixels.ts';
import type { MendSurroundings, MethodChoice } from '../mendWish.ts';
import type { MendProposal } from '../proposeMend.ts';
import { sourcePlace } from '../proposeMend.ts';
import type { FaultToMend } from './faultToMend.ts';
import { mendFault } from './mendFault.ts';

/**
 * Returns a function that makes one mend after the other. Each call keeps clear of the sources that the calls before it
 * took, so that no source is used over and over.
 *
 * @param choice the method; auto where it is missing
 */
export function mendsInTurn(
  surroundings: MendSurroundings,
  pixels: Pixels,
  choice: MethodChoice = 'auto',
): (fault: FaultToMend) => MendProposal {
  const used = [...surroundings.used];
  return (fault) => {
    const proposal = mendFault(fault, { ...surroundings, used }, pixels, choice);
    const place = sourcePlace(proposal.mend);
    if (place) used.push(place);
    return proposal;
  };
}
