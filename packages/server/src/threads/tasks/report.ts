import type { FinishStep } from '@fennip/core/finish';
import type { LedgerEntry } from '@fennip/core/ledger';
import type { ReportFacts, ReportPaper, ReportedPicture } from '@fennip/files';
import { buildReport, reportHtml, reportPdf } from '@fennip/files';
import type { Original } from './original.ts';
import { headerOf } from './original.ts';

export interface ReportInput extends Original {
  readonly shown: ReportedPicture;
  readonly finish: readonly FinishStep[];
  readonly entries: readonly LedgerEntry[];
  readonly facts: ReportFacts;
  /** As one HTML file, or as PDF on a paper. */
  readonly as: 'html' | ReportPaper;
}

/** A condition report as a file. */
export async function report({ shown, finish, entries, facts, as, ...of }: ReportInput): Promise<Uint8Array> {
  const built = await buildReport(shown, await headerOf(of), finish, entries, facts);
  return as === 'html' ? Buffer.from(reportHtml(built)) : reportPdf(built, as);
}
