import { strokeTwice, traceCorners } from './drawTarget.ts';

/** Pictures of the ticks around a spot, kept by size and colour: a thousand of them are laid down in a few milliseconds, where stroking each takes the whole of a frame. */
export interface MarkSprites {
  /** Pixels of the canvas for one of the screen: what was kept for another is dropped. */
  setRatio(ratio: number): void;
  /**
   * Lays down ticks around a place.
   *
   * @param half from the middle to the ticks, in screen pixels
   * @param width of the line, in screen pixels
   * @returns false where the mark is too large to be kept, and nothing was drawn
   */
  draw(
    context: CanvasRenderingContext2D,
    x: number,
    y: number,
    mark: { readonly half: number; readonly colour: string; readonly width: number },
  ): boolean;
}

/** Larger marks are few. */
const MOST_HALF = 24;
/** Sizes are told apart by so much, in screen pixels. */
const STEP = 0.5;
/** Room for the width of the line. */
const ROOM = 3;

export function createMarkSprites(): MarkSprites {
  /** By colour, then by size and width. */
  const kept = new Map<string, Map<number, ImageBitmap>>();
  let ratio = 1;
  /** All are painted on the same canvas: to make one takes longer than to paint on it. */
  const canvas = new OffscreenCanvas(1, 1);
  const context = canvas.getContext('2d');

  /** As a bitmap: of a canvas a picture would be taken each time that it is laid down. */
  function paint(side: number, half: number, colour: string, width: number): ImageBitmap {
    [canvas.width, canvas.height] = [side, side];
    if (context) {
      context.setTransform(ratio, 0, 0, ratio, side / 2, side / 2);
      context.beginPath();
      traceCorners(context, 0, 0, half);
      strokeTwice(context, colour, width);
    }
    return canvas.transferToImageBitmap();
  }

  return {
    setRatio(wanted) {
      if (wanted !== ratio) kept.clear();
      ratio = wanted;
    },
    draw(context, x, y, { half, colour, width }) {
      if (half > MOST_HALF) return false;
      const stepped = Math.round(half / STEP) * STEP;
      const ofColour = kept.get(colour) ?? new Map<number, ImageBitmap>();
      kept.set(colour, ofColour);
      const key = 100 * stepped + width;
      const side = 2 * Math.ceil((stepped + ROOM) * ratio);
      const sprite = ofColour.get(key) ?? paint(side, stepped, colour, width);
      ofColour.set(key, sprite);
      // On whole pixels of the screen its lines stay sharp.
      const [left, top] = [Math.round(x * ratio) - side / 2, Math.round(y * ratio) - side / 2];
      context.drawImage(sprite, left / ratio, top / ratio, side / ratio, side / ratio);
      return true;
    },
  };
}
