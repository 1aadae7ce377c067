import { addressOf } from '@fennip/contract';

/** The address of an image of a square of a picture, as it came in. Sides in its own pixels. */
export const cropAddress = (pictureId: string, x: number, y: number, half: number): string =>
  addressOf(
    'crop',
    { picture: pictureId },
    { x: x.toFixed(1), y: y.toFixed(1), half: String(Math.ceil(half)) },
  );
