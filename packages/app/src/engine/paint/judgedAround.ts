/** How far around a mend its judgement looks, in pixels: its ring and what a ring's own rectangle adds. */
export const JUDGED_AROUND = 32;
