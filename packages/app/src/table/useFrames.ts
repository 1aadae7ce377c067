import { useDebounceFn } from '@vueuse/core';
import type { ArrivedPart } from './tileCache.ts';

/** What is drawn with a frame, each on a canvas of its own. */
export interface Drawn {
  /**
   * Draws the picture.
   *
   * @param isMoving quickly, because it will soon be another; else well
   * @param arrived the parts that came since; where there are none given all of it is drawn anew
   */
  readonly picture: (isMoving: boolean, arrived: readonly ArrivedPart[] | null) => void;
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

/** Draws at most once with each frame, and no more than what is another. */
export function useFrames(drawn: Drawn): Frames {
  let frame = 0;
  let isWhole = true;
  let areMarks = true;
  let arrived: ArrivedPart[] = [];
  /** What was drawn last was drawn quickly. */
  let isMoving = false;

  function ask(): void {
    if (frame === 0) frame = requestAnimationFrame(draw);
  }

  function draw(): void {
    frame = 0;
    const parts = arrived;
    arrived = [];
    if (isWhole || parts.length > 0) drawn.picture(isMoving, isWhole ? null : parts);
    if (areMarks) drawn.marks();
    isWhole = false;
    areMarks = false;
  }

  const drawWell = useDebounceFn(() => {
    isMoving = false;
    isWhole = true;
    ask();
  }, REST_MS);

  return {
    redraw() {
      isMoving = true;
      isWhole = true;
      areMarks = true;
      ask();
      void drawWell();
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
