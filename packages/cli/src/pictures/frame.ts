import type { Orientation, Placement, SensorShape } from '@fennip/core/chart';
import type { CaptureData } from '@fennip/core/picture';
import type { Pixels, Raster } from '@fennip/core/raster';
import { placeOnSensor } from '@fennip/core/chart';
import { pixelsOf } from '@fennip/core/raster';
import type { PictureHeader } from '@fennip/files';
import { captureData, decodePicture } from '@fennip/files';

/** A camera frame as a command reads it. */
export interface Frame {
  readonly raster: Raster;
  readonly header: PictureHeader;
  readonly pixels: Pixels;
  readonly orientation: Orientation;
  /** From the file's capture data; null where it says none. */
  readonly fNumber: number | null;
  readonly capture: CaptureData;
}

export const orientationOf = (header: PictureHeader): Orientation =>
  (captureData(header.exif).orientation ?? 1) as Orientation;

/** @throws PictureError when the file is refused or broken */
export async function readFrame(path: string): Promise<Frame> {
  const { raster, header } = await decodePicture(path);
  const capture = captureData(header.exif);
  return {
    ...{ raster, header, pixels: pixelsOf(raster, header.transfer), orientation: orientationOf(header) },
    fNumber: capture.fNumber ?? null,
    capture,
  };
}

export const placementOf = ({ raster, orientation }: Frame, sensor: SensorShape): Placement =>
  placeOnSensor(raster, orientation, sensor);
