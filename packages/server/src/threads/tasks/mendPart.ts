import type { FaultToMend, MendProposal, MendSurroundings } from '@fennip/core/mend';
import { mendsInTurn } from '@fennip/core/mend';
import { pixelsOf } from '@fennip/core/raster';
import type { LoadedPicture } from './original.ts';

/** Mends a part of a run over the faults of a picture that all threads share. */
export const mendPart = ({
  picture: { raster, transfer },
  faults,
  surroundings,
}: {
  readonly picture: LoadedPicture;
  readonly faults: readonly FaultToMend[];
  readonly surroundings: MendSurroundings;
}): MendProposal[] => faults.map(mendsInTurn(surroundings, pixelsOf(raster, transfer)));
