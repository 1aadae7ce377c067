import type { Fault } from './fault.ts';

/** A fault in pixels of a picture so many times as large. */
export function scaleFault(fault: Fault, by: number): Fault {
  const scaled = (points: Fault['path']) => points?.map(([x, y]) => [by * x, by * y] as const);
  const { path, outline } = fault;
  return {
    ...fault,
    ...{ x: by * fault.x, y: by * fault.y, r: by * fault.r },
    ...(path && { path: scaled(path) }),
    ...(outline && { outline: scaled(outline) }),
  };
}
