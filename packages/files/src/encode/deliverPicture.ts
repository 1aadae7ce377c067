import { said } from '@fennip/words';
import type { Intent, RgbSpace } from '@fennip/core/colour';
import type { DeliverySize } from '@fennip/core/picture';
import type { Raster } from '@fennip/core/raster';
import { DISPLAY_P3_SPACE, SRGB_SPACE, convertColours, convertToGrey } from '@fennip/core/colour';
import { deliveredSides } from '@fennip/core/picture';
import { resizeRaster } from '@fennip/core/resample';
import type { CarriedData } from '../embed/carriedData.ts';
import type { PictureHeader } from '../decode/header.ts';
import { rgbSpaceOf } from '../decode/rgbSpaceOf.ts';
import type { HistoryNote } from '../embed/xmp.ts';
import { withHistory } from '../embed/xmp.ts';
import { PictureError } from '../errors/pictureError.ts';
import { displayP3ByTables } from './displayP3ByTables.ts';
import type { EncodeSettings } from './encodePicture.ts';
import { encodePicture } from './encodePicture.ts';
import { targetProfile } from './targetProfile.ts';

/** The values that a delivery is in: the original's, or another space. */
export const TARGET_PROFILES = ['own', 'srgb', 'display-p3', 'grey'] as const;
export type TargetProfile = (typeof TARGET_PROFILES)[number];

/** How a finished picture is handed over. */
export interface DeliverySettings extends EncodeSettings {
  readonly size: DeliverySize;
  readonly profile: TargetProfile;
  readonly intent: Intent;
  /** True if Exif, XMP and IPTC go along. Profile and resolution always do. */
  readonly isDataKept: boolean;
  /** What is added to the history in the file's XMP; null adds nothing. */
  readonly note: HistoryNote | null;
}

/** A picture in the values of a delivery, and their profile. */
async function inProfile(
  raster: Raster,
  header: PictureHeader,
  { profile, intent }: DeliverySettings,
): Promise<{ raster: Raster; icc?: Buffer }> {
  if (profile === 'own') return { raster, ...(header.icc ? { icc: header.icc } : {}) };
  const inColour = await inColours(raster, header);
  if (profile === 'grey') return { raster: convertToGrey(inColour.raster, inColour.space) };
  const to = profile === 'srgb' ? SRGB_SPACE : DISPLAY_P3_SPACE;
  // A picture that says nothing of its values is in sRGB: nothing would change but the rounding.
  const isThere = inColour.space === to && raster.planes.length >= 3;
  return {
    raster: isThere ? inColour.raster : convertColours(inColour.raster, inColour.space, to, intent),
    icc: await targetProfile(profile),
  };
}

/** A picture in values whose colours can be computed, and what they mean. */
async function inColours(
  raster: Raster,
  header: PictureHeader,
): Promise<{ raster: Raster; space: RgbSpace }> {
  const space = rgbSpaceOf(header);
  if (space) return { raster, space };
  const read = header.icc ? await displayP3ByTables(raster, header.icc) : null;
  if (!read) throw new PictureError('unsupported', said('file.profile'));
  return { raster: read, space: DISPLAY_P3_SPACE };
}

/**
 * Encodes a finished picture as it is handed over: in the wanted profile, size and format, with what it carries.
 *
 * @param raster as it was finished and framed, in the values of the original
 * @param header of the original
 * @throws PictureError when the format cannot hold it, or its colours cannot be converted
 */
export async function deliverPicture(
  raster: Raster,
  header: PictureHeader,
  settings: DeliverySettings,
): Promise<Buffer> {
  const sides = deliveredSides({ ...raster, density: header.density }, settings.size);
  const { raster: converted, icc } = await inProfile(raster, header, settings);
  const isSame = sides.width === raster.width && sides.height === raster.height;
  const sized = isSame ? converted : resizeRaster(converted, sides.width, sides.height);
  const kept: CarriedData = settings.isDataKept ? header : {};
  const xmp = settings.note ? withHistory(kept.xmp, settings.note) : kept.xmp;
  const carried: CarriedData = {
    ...(icc ? { icc } : {}),
    ...(sides.density ? { density: sides.density } : {}),
    ...(kept.exif ? { exif: kept.exif } : {}),
    ...(kept.iptc ? { iptc: kept.iptc } : {}),
    ...(xmp ? { xmp } : {}),
  };
  return encodePicture(sized, carried, settings);
}
