/** Side of the kernel of a grain, in pixels: grain is finer than half of it. */
export const KERNEL_SIDE = 17;
