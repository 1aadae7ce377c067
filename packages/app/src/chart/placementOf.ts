import type { Picture } from '@fennip/contract';
import type { Orientation, Placement, SensorPicture, SensorShape } from '@fennip/core/chart';
import { placeOnSensor } from '@fennip/core/chart';

/** A picture as its sensor took it: as its file says, or as its dust says better. */
export const takenBy = (picture: Picture): SensorPicture => ({
  shape: picture,
  orientation: (picture.capture.orientation ?? 1) as Orientation,
  part: picture.sensorPart,
});

/** Where a picture lies on a sensor. */
export function placementOf(picture: Picture, sensor: SensorShape): Placement {
  const { shape, orientation, part = null } = takenBy(picture);
  return placeOnSensor(shape, orientation, sensor, part);
}
