/** What the proof and the ledger show of a mend waits this long, in milliseconds: its pixels on the table come first. */
export const AFTER_PIXELS_MS = 160;
