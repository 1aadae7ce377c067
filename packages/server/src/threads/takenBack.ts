import { said } from '@fennip/words';
import type { Mend, ReturnMend } from '@fennip/core/mend';
import type { Raster } from '@fennip/core/raster';
import type { Recipe } from '@fennip/core/recipe';
import { wholeWindow } from '@fennip/core/raster';
import { renderRecipe } from '@fennip/core/recipe';
import { compareReturned, mendsUnder, valuesInside } from '@fennip/core/roundtrip';
import type { DecodedPicture, PictureHeader } from '@fennip/files';
import { PictureError, rgbSpaceOf, toDepth } from '@fennip/files';

/** What changed as a mend, and what lies under it. */
export interface TakenBackMend {
  readonly mend: ReturnMend;
  readonly covered: readonly string[];
  readonly share: number;
}

/** The recipe holds the values: more than this many characters would make every look at it slow. */
const MOST_TEXT = 12e6;

/** Colorants this near to each other are the same, rounded by who wrote the profile. */
const SAME = 2e-3;

/** True if values mean the same: a profile that says sRGB and none at all do. */
function isSameProfile(own: PictureHeader, other: PictureHeader): boolean {
  if (own.icc && other.icc && own.icc.equals(other.icc)) return true;
  const [a, b] = [rgbSpaceOf(own), rgbSpaceOf(other)];
  if (!a || !b) return false;
  const isNear = a.toXyz.every((row, i) => row.every((value, k) => Math.abs(value - b.toXyz[i][k]) < SAME));
  return isNear && JSON.stringify(a.transfer) === JSON.stringify(b.transfer);
}

function refuseWhatDoesNotFit(original: DecodedPicture, came: DecodedPicture): void {
  const [own, other] = [original.header, came.header];
  if (own.width !== other.width || own.height !== other.height)
    throw new PictureError(
      'unsupported',
      said('return.size', {
        ...{ width: other.width, height: other.height, ownWidth: own.width, ownHeight: own.height },
      }),
    );
  if (own.channels >= 3 !== other.channels >= 3) throw new PictureError('unsupported', said('return.colour'));
  if (!isSameProfile(own, other)) throw new PictureError('unsupported', said('return.profile'));
}

const pixels = (n: number): string => Math.abs(n).toFixed(1);

/**
 * Holds a picture that comes back against what was sent.
 *
 * @param sent what was on the picture when it left; its mends are laid on the original in place
 * @param mends those that are on the picture now
 * @throws PictureError when it does not fit, or nothing or too much has changed
 */
export function takenBack(
  original: DecodedPicture,
  came: DecodedPicture,
  { sent, mends, id }: { readonly sent: Recipe; readonly mends: readonly Mend[]; readonly id: string },
): TakenBackMend {
  refuseWhatDoesNotFit(original, came);
  const { raster, header } = original;
  const returned: Raster = toDepth(came.raster, raster.depth);
  renderRecipe(raster, sent, header);
  const { isAligned, shift, changed, share } = compareReturned(raster, returned);
  if (!isAligned)
    throw new PictureError(
      'unsupported',
      said('return.moved', {
        across: said(shift.dx < 0 ? 'return.left' : 'return.right', { n: pixels(shift.dx) }),
        down: said(shift.dy < 0 ? 'return.up' : 'return.down', { n: pixels(shift.dy) }),
      }),
    );
  if (!changed) throw new PictureError('unsupported', said('return.nothing'));
  const values = valuesInside(returned, changed);
  if (values.length > MOST_TEXT)
    throw new PictureError('unsupported', said('return.tooMuch', { n: Math.round(100 * share) }));
  const mend: ReturnMend = {
    ...{ id, method: 'return', target: changed, margin: 0, edge: 0, share: 1, on: true },
    ...{ depth: raster.depth, values },
  };
  const { picture } = wholeWindow(raster);
  return { mend, share, covered: mendsUnder(changed, mends, picture).map((one) => one.id) };
}
