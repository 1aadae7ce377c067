import type { Static } from '@sinclair/typebox';
import { Type } from '@sinclair/typebox';
import type { ChartDocument } from '../chart/chartDocument.ts';

export const EntryVerdictSchema = Type.Object(
  { verdict: Type.Union([Type.Literal('confirmed'), Type.Literal('dismissed'), Type.Literal('open')]) },
  { additionalProperties: false },
);
export type EntryVerdictRequest = Static<typeof EntryVerdictSchema>;
export type EntryVerdict = EntryVerdictRequest['verdict'];

/** A frame that a chart was made from. */
export interface ChartedFrame {
  readonly pictureId: string;
  readonly jobId: string;
  readonly name: string;
  readonly fNumber: number | null;
  readonly takenAt: string | null;
  readonly isReference: boolean;
  /** True if the picture is still there. */
  readonly isThere: boolean;
}

/** A camera's dust chart as lists show it. */
export interface ChartSummary {
  readonly id: string;
  readonly camera: string;
  readonly entries: number;
  readonly frames: number;
  readonly madeAt: string;
  /** When its oldest frame was taken, and when the sensor was cleaned, for a chart that is closed. */
  readonly openedAt: string | null;
  readonly closedAt: string | null;
}

export interface DustChartSheet extends ChartSummary {
  readonly document: ChartDocument;
  /** One for each of the document's frames. */
  readonly pictures: readonly ChartedFrame[];
  readonly verdicts: Readonly<Record<number, EntryVerdict>>;
  /** When each entry was first and last seen, by number. */
  readonly seen: Readonly<Record<number, { readonly first: string | null; readonly last: string | null }>>;
}
