import type { SpotMend, Verdict } from '@fennip/core/mend';
import { judgeMend, mendFootprint } from '@fennip/core/mend';
import { colourFloats, growRect } from '@fennip/core/raster';
import { isLaidTreatment } from '@fennip/core/recipe';
import { fieldOn } from '@fennip/core/target';
import { JUDGED_AROUND } from '../../paint/judgedAround.ts';
import type { OpenPicture } from '../openPicture.ts';
import { settled } from '../showChanges.ts';

/** What a mend that is worked out beside the table thinks of itself, once it is; null where it covers nothing. */
export async function verdictOf(picture: OpenPicture, mend: SpotMend): Promise<Verdict | null> {
  await settled(picture);
  const { mended, tiles } = picture;
  const footprint = mendFootprint(mend, tiles.picture);
  const laid = mended.laidOn(footprint).find((one) => one.mend.id === mend.id);
  if (!laid || isLaidTreatment(laid)) return null;
  const { rect, after } = laid;
  await tiles.ready([growRect(rect, JUDGED_AROUND)]);
  const { coverage } = fieldOn(mend, rect);
  return judgeMend({ rect, values: colourFloats(after), coverage }, tiles.pixels);
}
