import type { WrittenFormatName } from '@fennip/core/picture';
import { WRITTEN_FORMAT_NAMES } from '@fennip/core/picture';

/** The formats a picture can leave in. */
export const DELIVERY_FORMATS = WRITTEN_FORMAT_NAMES;
export type DeliveryFormat = WrittenFormatName;
