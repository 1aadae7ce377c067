import { isDeepStrictEqual } from 'node:util';
import type { SensorPart } from '@fennip/core/chart';
import type { Context } from '../context/context.ts';
import type { PictureRow } from '../rows/pictureRows.ts';
import { publishPicture } from '../events/publishPicture.ts';

/** Keeps where a picture lies on its sensor; null where its file alone says. */
export async function keepSensorPart(
  context: Context,
  picture: PictureRow,
  part: SensorPart | null,
): Promise<void> {
  if (isDeepStrictEqual(part, picture.sensor_part)) return;
  await context
    .database('pictures')
    .where('id', picture.id)
    .update({ sensor_part: part && JSON.stringify(part) });
  await publishPicture(context, picture.id);
}
