import type { DeliveryFormat } from '@fennip/contract';
import { fileNames } from '@fennip/contract';
import { describeFormat } from '@fennip/core/picture';

/** The ending of a delivery's file, without the dot. */
export const endingOf = (format: DeliveryFormat): string => describeFormat(format).endings[0];

/** The files' names of a job's delivery, in the order of its pictures. */
export const namesFor = (
  pictures: readonly string[],
  pattern: string,
  job: string,
  format: DeliveryFormat,
): string[] => fileNames(pictures, pattern, job, endingOf(format));
