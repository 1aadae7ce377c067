import type { PictureShape } from '../raster/raster.ts';
import type { Rect } from '../raster/rect.ts';

/** The sides of a sensor, in pixels, as the camera holds it level. */
export interface SensorShape {
  readonly width: number;
  readonly height: number;
}

/**
 * How a camera was held, as Exif numbers it: 1 level, 3 upside down, 6 and 8 upright, 2, 4, 5 and 7 mirrored
 * (Exif 2.32, tag Orientation).
 */
export type Orientation = 1 | 2 | 3 | 4 | 5 | 6 | 7 | 8;

/** Where an upright picture lies on the sensor that took it. */
export interface Placement {
  readonly orientation: Orientation;
  /** Upper left corner on the level sensor, in its pixels. */
  readonly left: number;
  readonly top: number;
  /** Picture pixels to one of the sensor. */
  readonly scale: number;
  /** Sides of the upright picture. */
  readonly width: number;
  readonly height: number;
}

/** The part of a sensor that a cropped picture shows. */
export interface SensorPart {
  readonly sensor: SensorShape;
  /** How the picture lies on it; its file may say otherwise or nothing. */
  readonly orientation: Orientation;
  /** Upper left corner, in pixels of that sensor held level. */
  readonly left: number;
  readonly top: number;
  /** Picture pixels to one of that sensor. */
  readonly scale: number;
}

/** A picture as a sensor took it. */
export interface SensorPicture {
  readonly shape: SensorShape;
  readonly orientation: Orientation;
  /** Where it is known to be cut out; null where its file alone says. */
  readonly part?: SensorPart | null;
}

/** Whether a picture was stored lying where it stands upright, or the other way round. */
export const isTurned = (orientation: Orientation): boolean => orientation >= 5;

export type SensorPoint = readonly [x: number, y: number];

/** The sides a picture had before it was set upright. */
export const levelSides = ({ width, height }: SensorShape, orientation: Orientation): SensorShape =>
  isTurned(orientation) ? { width: height, height: width } : { width, height };

/**
 * Places a picture on a sensor: one of other sides is a smaller copy of the whole or, where its shape differs, of the
 * largest part of that shape in the middle, as cameras crop.
 *
 * @param picture sides of the upright picture, in pixels
 * @param part what is known better than that
 */
export function placeOnSensor(
  picture: Pick<PictureShape, 'width' | 'height'>,
  orientation: Orientation,
  sensor: SensorShape,
  part: SensorPart | null = null,
): Placement {
  const { width, height } = picture;
  if (part) {
    const growth = sensor.width / part.sensor.width;
    const { left, top } = part;
    return {
      ...{ orientation: part.orientation, width, height },
      scale: part.scale / growth,
      left: growth * left,
      top: growth * top,
    };
  }
  const level = levelSides(picture, orientation);
  const scale = Math.max(level.width / sensor.width, level.height / sensor.height);
  return {
    ...{ orientation, scale, width, height },
    left: (sensor.width - level.width / scale) / 2,
    top: (sensor.height - level.height / scale) / 2,
  };
}

/**
 * The sensor that pictures of one camera suggest: as large as the largest of them, held level.
 *
 * @returns its sides in pixels, as the camera is held level
 */
export const sensorOf = (pictures: readonly SensorPicture[]): SensorShape =>
  pictures
    .map(({ shape, orientation, part }) => part?.sensor ?? levelSides(shape, orientation))
    .reduce((a, b) => (b.width * b.height > a.width * a.height ? b : a));

/**
 * How far along the level picture a place of the upright one lies. Each orientation says which side of the stored
 * picture is the upright one's top and which its left.
 */
function toLevel(x: number, y: number, { orientation, width, height }: Placement): SensorPoint {
  switch (orientation) {
    case 1:
      return [x, y];
    case 2:
      return [width - x, y];
    case 3:
      return [width - x, height - y];
    case 4:
      return [x, height - y];
    case 5:
      return [y, x];
    case 6:
      return [y, width - x];
    case 7:
      return [height - y, width - x];
    case 8:
      return [height - y, x];
  }
}

/** The inverse of {@link toLevel}. */
function toUpright(x: number, y: number, { orientation, width, height }: Placement): SensorPoint {
  switch (orientation) {
    case 1:
      return [x, y];
    case 2:
      return [width - x, y];
    case 3:
      return [width - x, height - y];
    case 4:
      return [x, height - y];
    case 5:
      return [y, x];
    case 6:
      return [width - y, x];
    case 7:
      return [width - y, height - x];
    case 8:
      return [y, height - x];
  }
}

/**
 * A place of an upright picture on the sensor.
 *
 * @param x in pixels of the upright picture, as `y` is
 * @returns in pixels of the sensor
 */
export function onSensor(x: number, y: number, placement: Placement): SensorPoint {
  const [levelX, levelY] = toLevel(x, y, placement);
  return [placement.left + levelX / placement.scale, placement.top + levelY / placement.scale];
}

/**
 * A place of the sensor in an upright picture; it may lie outside.
 *
 * @param x in pixels of the sensor, as `y` is
 * @returns in pixels of the upright picture
 */
export const onPicture = (x: number, y: number, placement: Placement): SensorPoint =>
  toUpright((x - placement.left) * placement.scale, (y - placement.top) * placement.scale, placement);

/** The rectangle of an upright picture that a rectangle of the sensor falls on, in whole pixels. */
export function rectOnPicture({ left, top, width, height }: Rect, placement: Placement): Rect {
  const [ax, ay] = onPicture(left, top, placement);
  const [bx, by] = onPicture(left + width, top + height, placement);
  const [x, y] = [Math.floor(Math.min(ax, bx) + 1e-6), Math.floor(Math.min(ay, by) + 1e-6)];
  return {
    ...{ left: x, top: y },
    width: Math.ceil(Math.max(ax, bx) - 1e-6) - x,
    height: Math.ceil(Math.max(ay, by) - 1e-6) - y,
  };
}

/** A direction of the sensor in the upright picture, in radians. */
export function angleOnPicture(angle: number, placement: Placement): number {
  const [ax, ay] = onPicture(0, 0, placement);
  const [bx, by] = onPicture(Math.cos(angle), Math.sin(angle), placement);
  return Math.atan2(by - ay, bx - ax);
}
