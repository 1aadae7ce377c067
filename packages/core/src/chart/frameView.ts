import { greyLight, lightPatchOf } from '../mend/recover/lightPatch.ts';
import type { LightPatch } from '../mend/recover/lightPatch.ts';
import type { Pixels } from '../raster/pixels.ts';
import type { Rect } from '../raster/rect.ts';
import { intersectRects, isEmpty } from '../raster/rect.ts';
import { pictureRect } from '../raster/window.ts';
import { levelPlane } from './levelPlane.ts';
import type { Placement } from './sensor.ts';
import { isTurned, onSensor, rectOnPicture } from './sensor.ts';

/** Fewer pixels than this across show nothing that could be fitted. */
const LEAST_SIDE = 10;

/**
 * A part of a sensor as a frame shows it: grey linear light, turned to how the sensor lay, placed in sensor pixels.
 *
 * @param pixels of the upright frame
 * @param rect on the sensor
 * @returns null where the frame does not show it
 */
export function sensorView(pixels: Pixels, placement: Placement, rect: Rect): LightPatch | null {
  const inPicture = intersectRects(rectOnPicture(rect, placement), pictureRect(pixels.shape));
  if (isEmpty(inPicture) || Math.min(inPicture.width, inPicture.height) < LEAST_SIDE) return null;
  const { width, height, planes, known } = greyLight(lightPatchOf(pixels.window(inPicture)));
  const { orientation } = placement;
  const sides = { width, height };
  const corners = [
    onSensor(inPicture.left, inPicture.top, placement),
    onSensor(inPicture.left + width, inPicture.top + height, placement),
  ];
  return {
    left: Math.min(corners[0][0], corners[1][0]),
    top: Math.min(corners[0][1], corners[1][1]),
    scale: 1 / placement.scale,
    ...(isTurned(orientation) ? { width: height, height: width } : sides),
    planes: [levelPlane(planes[0], sides, orientation, new Float32Array(width * height))],
    known: levelPlane(known, sides, orientation, new Uint8Array(width * height)),
  };
}
