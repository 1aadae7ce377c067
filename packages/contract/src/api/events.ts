import type { Picture } from './picture.ts';
import type { Delivery } from './requests.ts';
import type { Present } from './presence.ts';
import type { Run } from './runs.ts';

/** Work that goes on in the background. */
export type WorkKind = 'prepare' | 'examine' | 'check' | 'deliver' | 'piece';

/** What the server tells a page that watches a job. */
export type JobEvent =
  | { readonly type: 'picture'; readonly picture: Picture }
  | { readonly type: 'gone'; readonly pictureId: string }
  | {
      readonly type: 'progress';
      readonly work: WorkKind;
      readonly pictureId: string;
      /** 0 to 1. */
      readonly share: number;
    }
  | { readonly type: 'edited'; readonly pictureId: string; readonly revision: number }
  /** All who have a picture of the job open, the window that hears it among them. */
  | { readonly type: 'present'; readonly present: readonly Present[] }
  | { readonly type: 'delivery'; readonly delivery: Delivery }
  | { readonly type: 'run'; readonly run: Run };
