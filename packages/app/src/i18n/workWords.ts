import type { Picture } from '@fennip/contract';
import { say } from './say.ts';

/** A length of time as a person says it; nothing is said more exactly than it is known. */
export function duration(seconds: number): string {
  if (seconds < 55) return say('figure.seconds', { n: Math.max(1, Math.round(seconds)) });
  const minutes = Math.round(seconds / 60);
  return minutes < 60
    ? say('figure.minutes', { n: minutes })
    : say('figure.hours', { h: Math.floor(minutes / 60), n: minutes % 60 });
}

/** True if all that is on a picture's ledger is decided. */
export const isDone = ({ faults, settled }: Pick<Picture, 'faults' | 'settled'>): boolean =>
  faults > 0 && settled === faults;

/** The time a picture will still take, in seconds; 0 where nothing is left or nothing is known. */
export function secondsLeft({ estimate, faults, settled, setAside }: Picture): number {
  if (!estimate || setAside || faults === 0) return 0;
  return (estimate.seconds * (faults - settled)) / faults;
}

/** How long a picture will take, or what became of what was thought; none before it was examined. */
export function workLine(picture: Picture): string | null {
  const { estimate, faults } = picture;
  if (!estimate || faults === 0) return null;
  if (!isDone(picture))
    return say(estimate.isGuess ? 'work.guess' : 'work.thought', { time: duration(secondsLeft(picture)) });
  const { seconds, spentSeconds } = estimate;
  const error = Math.round(100 * (spentSeconds / Math.max(1, seconds) - 1));
  return say('work.done', {
    ...{ thought: duration(seconds), took: duration(spentSeconds) },
    error: error > 0 ? `+${error}` : `${error}`.replace('-', '−'),
  });
}
