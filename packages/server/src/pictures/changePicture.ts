import type { PictureChange } from '@fennip/contract';
import { EXAMINE_DEFAULTS } from '@fennip/core/examine';
import type { Context } from '../context/context.ts';
import { orderExamination } from '../examine/examinePicture.ts';
import { pictureRow } from '../rows/pictureRows.ts';
import { publishPicture } from '../events/publishPicture.ts';

/**
 * Takes over what is said about a picture as a whole. Another nature can carry other faults: a picture that was examined
 * is examined anew, and what was mended or decided about stays in its ledger.
 *
 * @throws Refusal when there is no such picture
 */
export async function changePicture(
  context: Context,
  id: string,
  { setAside, density, camera, nature, isReference }: PictureChange,
): Promise<void> {
  const { database } = context;
  const row = await pictureRow(database, id);
  await database('pictures')
    .where('id', id)
    .update({
      ...(setAside === undefined ? {} : { set_aside: setAside }),
      ...(density === undefined ? {} : { density }),
      // Where it lies was told by the dust of the camera it was of.
      ...(camera === undefined ? {} : { camera, sensor_part: null }),
      ...(nature === undefined ? {} : { nature, is_nature_given: true }),
      ...(isReference === undefined ? {} : { is_reference: isReference }),
    });
  if (nature !== undefined && nature !== row.nature && row.examined !== 'none')
    await orderExamination(context, id, row.examine_request ?? DEFAULT_REQUEST);
  await publishPicture(context, id);
}

const DEFAULT_REQUEST = { ...EXAMINE_DEFAULTS, polarities: [...EXAMINE_DEFAULTS.polarities] };
