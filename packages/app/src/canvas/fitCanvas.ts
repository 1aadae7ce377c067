import type { Size } from './viewport.ts';

/** Gives a canvas the sides of the table, in pixels of the screen. @returns its context, drawn on in CSS pixels */
export function fitCanvas(
  canvas: HTMLCanvasElement,
  table: Size,
  pixelRatio: number,
  alpha: boolean,
): CanvasRenderingContext2D | null {
  const width = Math.round(table.width * pixelRatio);
  const height = Math.round(table.height * pixelRatio);
  if (canvas.width !== width || canvas.height !== height) {
    canvas.width = width;
    canvas.height = height;
  }
  const context = canvas.getContext('2d', { alpha });
  context?.setTransform(pixelRatio, 0, 0, pixelRatio, 0, 0);
  return context;
}
