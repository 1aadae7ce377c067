import type { Point } from '@fennip/core/target';
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

let known: ReadonlyMap<string, string> | null = null;

/** The theme's colours, asked for once: the question makes the browser lay out the page. */
function themeColours(canvas: HTMLCanvasElement): ReadonlyMap<string, string> {
  known ??= (() => {
    const style = getComputedStyle(canvas);
    const names = ['--chosen', '--mended', '--open', '--line-strong'];
    return new Map(names.map((name) => [name, style.getPropertyValue(name)]));
  })();
  return known;
}

/** Draws findings; chosen ones last, on top of the others. */
export function drawDots(
  context: CanvasRenderingContext2D,
  dots: readonly PlacedDot[],
  { width, height }: { readonly width: number; readonly height: number },
): void {
  const { canvas } = context;
  const scale = devicePixelRatio;
  if (canvas.width !== Math.round(width * scale)) {
    canvas.width = Math.round(width * scale);
    canvas.height = Math.round(height * scale);
    canvas.style.width = `${width}px`;
    canvas.style.height = `${height}px`;
  }
  context.setTransform(scale, 0, 0, scale, 0, 0);
  context.clearRect(0, 0, width, height);
  const colours = themeColours(canvas);
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
