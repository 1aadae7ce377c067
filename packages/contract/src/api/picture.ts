import type { SensorPart } from '@fennip/core/chart';
import type { WorkEstimate } from '@fennip/core/estimate';
import type { PictureNature } from '@fennip/core/examine';
import type { FaultKind, NumberedFault } from '@fennip/core/fault';
import type { Transfer } from '@fennip/core/light';
import type { CaptureData } from '@fennip/core/picture';
import type { Depth } from '@fennip/core/raster';
import type { Judgement, Recipe, Step } from '@fennip/core/recipe';
import type { ExamineRequest } from './requests.ts';

/** From the arrival of the file to a picture that can be worked on. */
export type PictureState = 'preparing' | 'ready' | 'failed';

export type ExamineState = 'none' | 'waiting' | 'running' | 'done' | 'failed';

/** A picture as lists show it. */
export interface Picture {
  readonly id: string;
  readonly jobId: string;
  /** Pictures of a job stand in the order of their places, which need not follow one another. */
  readonly place: number;
  readonly name: string;
  readonly nature: PictureNature;
  readonly state: PictureState;
  /** What went wrong, for a picture that failed. */
  readonly problem: string | null;
  readonly format: string;
  readonly sizeBytes: number;
  readonly width: number;
  readonly height: number;
  readonly depth: Depth;
  readonly channels: number;
  /** Pixels per inch, where the file says. */
  readonly density: number | null;
  readonly capture: CaptureData;
  /** How many pictures its file holds; this one is the first. */
  readonly pages: number;
  /** The picture whose file this one was taken out of, and where it stood in it, from 0. */
  readonly pageOf: { readonly picture: string; readonly page: number } | null;
  /** The pyramid's name in tile addresses, and the finest level that is there: 0 is all; null is nothing yet. */
  readonly pyramid: string;
  readonly finestLevel: number | null;
  readonly examined: ExamineState;
  /** Why it was given up to examine it, or to check it; none where that did not happen. */
  readonly examineProblem: string | null;
  /** What the ledger was last decided by; none for a picture that was never examined. */
  readonly lookedFor: ExamineRequest | null;
  readonly faults: number;
  /** Faults that are mended or decided about. */
  readonly settled: number;
  /** The body it was taken with, from the file or by hand; null for a scan and where nothing is known. */
  readonly camera: string | null;
  /** A picture of nothing, taken to show the dust of a sensor. */
  readonly isReference: boolean;
  /** The part of its sensor that a cropped picture shows, as its own dust says; null where the file alone says. */
  readonly sensorPart: SensorPart | null;
  /** Grows with every edit. */
  readonly revision: number;
  /** Not worth the work, or not now. */
  readonly setAside: boolean;
  /** How far an examination of the picture as it is mended is. */
  readonly checked: ExamineState;
  /** How much work it is; none before it was examined. */
  readonly estimate: PictureEstimate | null;
}

/** How much work a picture was thought to be, and how much it was. */
export interface PictureEstimate extends WorkEstimate {
  /** Time at work on it so far, in seconds: pauses between steps do not count. */
  readonly spentSeconds: number;
}

/** A step of the picture's history. */
export interface HistoryStep {
  readonly seq: number;
  readonly words: string;
  readonly at: string;
  /** The name of who did it; missing where nobody signs in. */
  readonly by?: string;
}

/** All that the table needs to know about a picture. */
export interface PictureSheet {
  readonly picture: Picture;
  /** What the values mean in light, for each colour channel; sRGB where it is missing. */
  readonly transfer?: readonly Transfer[];
  /** What was found. */
  readonly faults: readonly NumberedFault[];
  readonly judgements: Readonly<Record<string, Judgement>>;
  /** Kinds the restorer gave instead of the finder's. */
  readonly kinds: Readonly<Record<string, FaultKind>>;
  /** What was marked by hand. */
  readonly marked: readonly NumberedFault[];
  /** The number the next fault marked by hand takes. */
  readonly nextFault: number;
  readonly recipe: Recipe;
  /** Grows with every change; an edit names the one it was made on. */
  readonly revision: number;
  /** Steps that can be undone, oldest first. */
  readonly done: readonly HistoryStep[];
  /** Steps that can be redone, next first. */
  readonly undone: readonly HistoryStep[];
}

/** The answer to an edit, an undo or a redo: what changed, as steps to carry out, and where the history stands. */
export interface EditAnswer {
  readonly revision: number;
  readonly steps: readonly Step[];
  readonly done: readonly HistoryStep[];
  readonly undone: readonly HistoryStep[];
}
