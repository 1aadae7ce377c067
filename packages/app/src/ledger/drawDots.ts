import type { Point } from '@fennip/core';
import type { ChartDot } from './chartDots.ts';

/** The part of a chart that its dots lie in, in pixels. */
export interface Box {
  readonly left: number;
  readonly right: number;
  readonly top: number;
  readonly bottom: number;
}

interface PlacedDot {
  readonly dot: ChartDot;
  readonly place: Point;
  readonly isChosen: boolean;
}

const RADIUS = 2.2;
const DASH = 4;

/** The theme's colour for what became of a finding. */
function colourName({ dot: { entry }, isChosen }: PlacedDot): string {
  if (isChosen) return '--chosen';
  if (entry?.state === 'mended' || entry?.state === 'lessened') return '--mended';
  return entry === null || entry.state === 'open' ? '--open' : '--line-strong';
}

/** A spot is round, a line a dash, an area a square; what is dark is filled, what is bright hollow. */
function trace(context: CanvasRenderingContext2D, form: ChartDot['form'], [x, y]: Point): void {
  context.beginPath();
  if (form === 'spot') context.arc(x, y, RADIUS, 0, 2 * Math.PI);
  else if (form === 'line') context.rect(x - DASH, y - 1, 2 * DASH, 2);
  else context.rect(x - RADIUS, y - RADIUS, 2 * RADIUS, 2 * RADIUS);
}

/** Draws findings; chosen ones last, on top of the others. */
export function drawDots(
  context: CanvasRenderingContext2D,
  dots: readonly PlacedDot[],
  { width, height }: { readonly width: number; readonly height: number },
): void {
  const { canvas } = context;
  const scale = devicePixelRatio;
  canvas.width = Math.round(width * scale);
  canvas.height = Math.round(height * scale);
  canvas.style.width = `${width}px`;
  canvas.style.height = `${height}px`;
  context.scale(scale, scale);
  const style = getComputedStyle(canvas);
  const colours = new Map(
    ['--chosen', '--mended', '--open', '--line-strong'].map((name) => [name, style.getPropertyValue(name)]),
  );
  const inOrder = [...dots.filter(({ isChosen }) => !isChosen), ...dots.filter(({ isChosen }) => isChosen)];
  for (const placed of inOrder) {
    const colour = colours.get(colourName(placed)) ?? '';
    trace(context, placed.dot.form, placed.place);
    if (placed.dot.polarity === 'dark') {
      context.fillStyle = colour;
      context.fill();
    } else {
      context.lineWidth = 1.1;
      context.strokeStyle = colour;
      context.stroke();
    }
  }
}
