import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { ArrivedPart } from './tileCache.ts';
import type { Share } from './useFrames.ts';
import { useFrames } from './useFrames.ts';

const part = (left: number): ArrivedPart => ({
  level: 0,
  rect: { left, top: 0, width: 256, height: 256 },
});

function inWords(share: Share): string {
  if (share === 'all') return share;
  return 'from' in share ? `${share.from} to ${share.to}` : share.map(({ rect }) => rect.left).join();
}

/** What was drawn, one line for each time. */
function follow() {
  const drawn: string[] = [];
  const frames = useFrames({
    picture: (isMoving, share) => {
      if (!isMoving && share === 'all') return 'too much';
      drawn.push(`${isMoving ? 'quickly' : 'well'}: ${inWords(share)}`);
      return isMoving ? 'quickly' : 'well';
    },
    marks: () => drawn.push('marks'),
  });
  return { frames, drawn };
}

beforeEach(() => {
  vi.useFakeTimers();
  // Sixty frames a second, as a browser draws them.
  vi.stubGlobal('requestAnimationFrame', (draw: () => void) => setTimeout(draw, 1000 / 60));
  vi.stubGlobal('cancelAnimationFrame', clearTimeout);
});
afterEach(() => {
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

const IN_BANDS = ['well: 0 to 0.25', 'well: 0.25 to 0.5', 'well: 0.5 to 0.75', 'well: 0.75 to 1'];

/** Time enough for the next frame, and too little for what waits until all rests. */
const nextFrame = (): void => void vi.advanceTimersByTime(20);

describe('frames', () => {
  it('draw once, however often they are asked', () => {
    const { frames, drawn } = follow();
    for (let i = 0; i < 9; i++) frames.redraw();
    frames.redrawMarks();
    expect(drawn).toEqual([]);
    nextFrame();
    expect(drawn).toEqual(['quickly: all', 'marks']);
  });

  it('draw no more than the parts that came', () => {
    const { frames, drawn } = follow();
    frames.redraw();
    nextFrame();
    drawn.length = 0;
    frames.arrive(part(0));
    frames.arrive(part(512));
    nextFrame();
    nextFrame();
    expect(drawn).toEqual(['quickly: 0,512']);
  });

  it('draw all where all came anew, whatever else came', () => {
    const { frames, drawn } = follow();
    frames.redraw();
    nextFrame();
    drawn.length = 0;
    frames.arrive(part(0));
    frames.arrive(null);
    nextFrame();
    expect(drawn).toEqual(['quickly: all']);
  });

  it('draw well once it rests, and not before', () => {
    const { frames, drawn } = follow();
    frames.redraw();
    vi.advanceTimersByTime(120);
    frames.redraw();
    vi.advanceTimersByTime(120);
    expect(drawn.filter((line) => line.startsWith('well'))).toEqual([]);
    vi.advanceTimersByTime(200);
    expect(drawn.slice(-4)).toEqual(IN_BANDS);
    drawn.length = 0;
    vi.advanceTimersByTime(1000);
    expect(drawn).toEqual([]);
  });

  it('draw well in bands what came anew while it rested', () => {
    const { frames, drawn } = follow();
    frames.redraw();
    vi.advanceTimersByTime(400);
    drawn.length = 0;
    frames.arrive(null);
    vi.advanceTimersByTime(400);
    expect(drawn).toEqual(IN_BANDS);
  });

  it('leave off drawing well when it moves again', () => {
    const { frames, drawn } = follow();
    frames.redraw();
    vi.advanceTimersByTime(200);
    expect(drawn.at(-1)).toMatch(/^well/);
    drawn.length = 0;
    frames.redraw();
    vi.advanceTimersByTime(100);
    expect(drawn).toEqual(['quickly: all', 'marks']);
  });

  it('draw nothing after they were stopped', () => {
    const { frames, drawn } = follow();
    frames.arrive(null);
    frames.stop();
    vi.advanceTimersByTime(1000);
    expect(drawn).toEqual([]);
  });
});
