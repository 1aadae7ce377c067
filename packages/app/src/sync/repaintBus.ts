import type { Repainter } from '../engine/paint/tileKey.ts';

/** Passes on what the worker that paints has painted, to everyone who shows it. */
export interface RepaintBus extends Repainter {
  /** @returns a function that stops listening */
  listen(repainter: Partial<Repainter>): () => void;
}

export function createRepaintBus(): RepaintBus {
  const repainters = new Set<Partial<Repainter>>();
  return {
    listen(repainter) {
      repainters.add(repainter);
      return () => repainters.delete(repainter);
    },
    changed: (rect, follows) => {
      for (const repainter of repainters) repainter.changed?.(rect, follows);
    },
    painted: (key, bitmap, list) => {
      for (const repainter of repainters) repainter.painted?.(key, bitmap, list);
    },
    laid: (part, bitmap, list) => {
      for (const repainter of repainters) repainter.laid?.(part, bitmap, list);
    },
    touched: (part, bitmap, list) => {
      for (const repainter of repainters) repainter.touched?.(part, bitmap, list);
    },
  };
}
