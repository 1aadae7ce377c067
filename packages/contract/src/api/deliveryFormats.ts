/** The formats a picture can leave in. */
export const DELIVERY_FORMATS = ['jpeg', 'png', 'tiff', 'webp', 'ora'] as const;
export type DeliveryFormat = (typeof DELIVERY_FORMATS)[number];
