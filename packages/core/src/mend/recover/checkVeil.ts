import type { Mistake } from '../../describe/mistake.ts';
import type { RecoverMend } from './recoverMend.ts';

const haveCount = (lists: readonly (readonly number[])[], count: number): Mistake | null => {
  const wrong = lists.findIndex(({ length }) => length !== count);
  return wrong < 0 ? null : { place: `veil/density/${wrong}`, reason: `must have ${count} values` };
};

/** Looks for lists of a veil that do not fit together. */
export function checkVeil({ target, veil }: RecoverMend): Mistake | null {
  switch (veil.kind) {
    case 'disc':
      return null;
    case 'tint':
      return haveCount(veil.density, veil.columns * veil.rows);
    case 'line':
      return veil.widths.length === veil.points.length
        ? null
        : {
            place: 'veil/widths',
            reason: `has ${veil.widths.length} values for ${veil.points.length} points`,
          };
    case 'stain': {
      const { depths, density } = veil;
      // A stain has a border that it can lie inside, and a density at each depth.
      if (target.shape !== 'outline') return { place: 'target', reason: 'must be an outline for a stain' };
      if (depths.some((depth, k) => k > 0 && depth <= depths[k - 1]))
        return { place: 'veil/depths', reason: 'must rise' };
      return haveCount(density, depths.length);
    }
  }
}
