import { useDebounceFn } from '@vueuse/core';
import type { ArrivedPart } from './tileCache.ts';

/** What of the picture is drawn anew: all, the parts that came since, or a band between two shares of the table's height. */
export type Share = 'all' | readonly ArrivedPart[] | Band;

export interface Band {
  readonly from: number;
  readonly to: number;
}

/** How the picture was drawn; where well would take longer than a frame, not at all. */
export type Drawing = 'well' | 'quickly' | 'too much';

/** What is drawn with a frame, each on a canvas of its own. */
export interface Drawn {
  /**
   * Draws the picture.
   *
   * @param isMoving quickly, because it will soon be another; else well
   */
  readonly picture: (isMoving: boolean, share: Share) => Drawing;
  readonly marks: () => void;
}

export interface Frames {
  /** The picture lies elsewhere, and with it all marks. */
  redraw(): void;
  redrawMarks(): void;
  /** A part came; what lies around it is not drawn anew. Null: all came anew. */
  arrive(part: ArrivedPart | null): void;
  stop(): void;
}

/** What rests so long is drawn well, in milliseconds. */
const REST_MS = 160;
/** So many frames share the work of drawing well, for which one is too short without a graphics card. */
const BANDS = 4;

/** Draws at most once with each frame, and no more than what is another. */
export function useFrames(drawn: Drawn): Frames {
  let frame = 0;
  let isWhole = true;
  let areMarks = true;
  let arrived: ArrivedPart[] = [];
  /** What moves is drawn quickly; so is what is seen first. */
  let isMoving = true;
  /** The next one to be drawn well. */
  let band = BANDS;

  function ask(): void {
    if (frame === 0) frame = requestAnimationFrame(draw);
  }

  function draw(): void {
    frame = 0;
    const share = isWhole ? 'all' : arrived;
    arrived = [];
    isWhole = false;
    const isNothing = share !== 'all' && share.length === 0;
    const drawing = isNothing ? 'well' : drawn.picture(isMoving, share);
    if (drawing === 'quickly') void drawWell();
    // What lies on the table stays until its band comes.
    if (drawing === 'too much') band = 0;
    if (band < BANDS) drawBand();
    if (areMarks) drawn.marks();
    areMarks = false;
  }

  function drawBand(): void {
    drawn.picture(false, { from: band / BANDS, to: (band + 1) / BANDS });
    band++;
    if (band < BANDS) ask();
  }

  const drawWell = useDebounceFn(() => {
    isMoving = false;
    band = 0;
    ask();
  }, REST_MS);

  return {
    redraw() {
      isMoving = true;
      isWhole = true;
      areMarks = true;
      band = BANDS;
      ask();
    },
    redrawMarks() {
      areMarks = true;
      ask();
    },
    arrive(part) {
      if (part) arrived.push(part);
      else isWhole = true;
      ask();
    },
    stop: () => cancelAnimationFrame(frame),
  };
}
