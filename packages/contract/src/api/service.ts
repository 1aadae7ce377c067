import type { WorkKind } from './events.ts';

/** What a server needs to do its work, and whether it has it. */
export interface Readiness {
  readonly ready: boolean;
  readonly database: boolean;
  readonly queue: boolean;
  /** True if the folder of pictures can be read and written. */
  readonly store: boolean;
  /** True if there is room on its disk. */
  readonly room: boolean;
}

/** How a server stands, for whoever runs it. */
export interface BehindTheScenes {
  readonly room: {
    readonly freeBytes: number;
    readonly totalBytes: number;
    /** What stays free for the database. */
    readonly keptBytes: number;
  };
  /** What the process of the server holds. */
  readonly memoryBytes: number;
  readonly upSeconds: number;
  /** Pixels of pictures that are held whole just now. */
  readonly pixelsInWork: number;
  readonly queue: readonly {
    readonly kind: WorkKind;
    readonly waiting: number;
    readonly underWay: number;
    readonly oldestSeconds: number;
  }[];
  readonly underWay: readonly {
    readonly kind: WorkKind;
    /** The name of the picture, file or job that it is about. */
    readonly subject: string;
    /** Part of the id of the server or worker that is at it. */
    readonly server: string;
  }[];
  readonly failures: readonly {
    readonly kind: WorkKind;
    readonly subject: string;
    readonly reason: string;
    /** ISO 8601. */
    readonly at: string;
  }[];
}
