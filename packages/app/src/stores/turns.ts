import { sentenceOf } from '@fennip/contract';
import { defineStore } from 'pinia';
import { usePicture } from './picture.ts';

/** What goes one after the other, each on what the one before it left. */
export type Lane = 'fences' | 'mend runs' | 'treatments';

/** Work that waits for its turn; what fails is said, and the next has its turn all the same. */
export const useTurns = defineStore('turns', () => {
  const picture = usePicture();
  const last = new Map<Lane, Promise<void>>();

  /** Does something once all is through that was asked for before in the same lane. @returns ends when it is done */
  function take(lane: Lane, work: () => Promise<void>): Promise<void> {
    const turn = (last.get(lane) ?? Promise.resolve()).then(work).catch((error: unknown) => {
      picture.notice = sentenceOf(error);
    });
    last.set(lane, turn);
    return turn;
  }

  return { take };
});
