/** Bounds how much is worked on at the same time by what it takes up in memory. */
export interface PixelGate {
  /** Does something once there is room for it, first come first served. What alone is too large is done alone. */
  run<T>(pixels: number, work: () => Promise<T>): Promise<T>;
  /** Pixels that are being worked on. */
  readonly inWork: number;
}

/** @param most pixels of pictures that are held whole at the same time */
export function createPixelGate(most: number): PixelGate {
  const waiting: { readonly pixels: number; readonly enter: () => void }[] = [];
  let inWork = 0;

  const fits = (pixels: number): boolean => inWork === 0 || inWork + pixels <= most;

  function enterNext(): void {
    while (waiting.length > 0 && fits(waiting[0].pixels)) {
      const next = waiting.shift();
      if (!next) return;
      inWork += next.pixels;
      next.enter();
    }
  }

  return {
    async run(pixels, work) {
      await new Promise<void>((enter) => {
        waiting.push({ pixels, enter });
        enterNext();
      });
      try {
        return await work();
      } finally {
        inWork -= pixels;
        enterNext();
      }
    },
    get inWork() {
      return inWork;
    },
  };
}
