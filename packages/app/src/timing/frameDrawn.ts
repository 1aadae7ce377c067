/** Resolves after the next frame, in a task of its own: what was mounted or drawn before is painted then. */
export const frameDrawn = (): Promise<void> =>
  new Promise((resolve) => requestAnimationFrame(() => setTimeout(resolve)));
