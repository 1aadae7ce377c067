/** How large a delivery is made. */
export type DeliverySize =
  /** As large as what is finished. */
  | { readonly kind: 'full' }
  /** By the pixels of its longer side. */
  | { readonly kind: 'pixels'; readonly longest: number }
  /** As large as fits a paper, longer side to longer side. */
  | {
      readonly kind: 'paper';
      /** Sides of the paper in inches. */
      readonly longer: number;
      readonly shorter: number;
      readonly ppi: number;
    };

export interface DeliveredSides {
  readonly width: number;
  readonly height: number;
  /** Pixels per inch that are written into the file; none where nothing is known. */
  readonly density?: number;
  /** Pixels of the delivery for one of the picture: above 1 it holds no more than the picture did. */
  readonly scale: number;
}

/**
 * The sides of a delivery.
 *
 * @param picture what is finished, in pixels, and its resolution in pixels per inch where it is known
 * @returns whole pixels, and pixels per inch
 */
export function deliveredSides(
  picture: { readonly width: number; readonly height: number; readonly density?: number | null | undefined },
  size: DeliverySize,
): DeliveredSides {
  const [longest, shortest] = [
    Math.max(picture.width, picture.height),
    Math.min(picture.width, picture.height),
  ];
  const scaled = (scale: number, density: number | null | undefined): DeliveredSides => ({
    width: Math.max(1, Math.round(picture.width * scale)),
    height: Math.max(1, Math.round(picture.height * scale)),
    ...(density ? { density } : {}),
    scale,
  });
  switch (size.kind) {
    case 'full':
      return scaled(1, picture.density);
    case 'pixels': {
      const scale = size.longest / longest;
      // The paper stays as large as it was.
      return scaled(scale, picture.density ? picture.density * scale : null);
    }
    case 'paper':
      return scaled(
        Math.min((size.longer * size.ppi) / longest, (size.shorter * size.ppi) / shortest),
        size.ppi,
      );
  }
}
