/** Side of the kernel of a grain, in pixels: grain is finer than half of it. */
export const KERNEL_SIDE = 17;

/** The kernel of white noise. */
export const WHITE_KERNEL: readonly number[] = Array.from({ length: KERNEL_SIDE ** 2 }, (_, i) =>
  i === (KERNEL_SIDE ** 2 - 1) / 2 ? 1 : 0,
);
