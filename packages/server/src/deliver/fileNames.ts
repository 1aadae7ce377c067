import type { DeliveryRequest } from '@fennip/contract';
import { fileNames } from '@fennip/contract';
import { ENDING_OF } from '@fennip/files';

/** The files' names of a job's delivery, in the order of its pictures. */
export const namesFor = (
  pictures: readonly string[],
  pattern: string,
  job: string,
  format: DeliveryRequest['format'],
): string[] => fileNames(pictures, pattern, job, ENDING_OF[format]);
