import type { PenPoint } from './penPoint.ts';

/** What is being drawn, for the marks' layer. */
export type Pending =
  | { readonly kind: 'pen'; readonly points: readonly PenPoint[]; readonly radius: number }
  | { readonly kind: 'outline' | 'course'; readonly points: readonly PenPoint[] }
  | { readonly kind: 'frame'; readonly from: PenPoint; readonly to: PenPoint };
