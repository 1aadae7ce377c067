import type { TreatmentDescription } from '../treatmentDescription.ts';
import { match } from './match.ts';
import type { MatchMend } from './matchMend.ts';

export const matchDescription: TreatmentDescription<MatchMend> = {
  name: 'match',
  does: 'brings tone and colour to those of a reference (Reinhard et al. 2001, in L*a*b*)',
  fields: {
    from: {
      kind: 'shape',
      says: 'mean and spread of L*, a* and b* of the patch',
      shape: 'colour statistics',
    },
    to: { kind: 'shape', says: 'the same of the reference', shape: 'colour statistics' },
  },
  mark: { radius: 40, edge: 16, share: 1 },
  reach: () => 0,
  values: match,
  scale: (mend, _times, scaled) => ({ ...mend, ...scaled }),
};
