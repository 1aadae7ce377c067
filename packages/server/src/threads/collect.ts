/**
 * Has what is no longer used collected before more is taken: pixels lie outside of the heap, where the collector does not
 * see how much they are. Does nothing unless the process was started with `--expose-gc`.
 */
export const collect = (): void => globalThis.gc?.();
