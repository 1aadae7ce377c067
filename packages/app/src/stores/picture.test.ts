import type { Edit } from '@fennip/core/recipe';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { openPage } from '../testing/openPage.ts';
import { speckOf } from '../testing/pictureSheet.ts';
import type { StandInServer } from '../testing/standInServer.ts';
import { usePicture } from './picture.ts';

const marking = (number: number): Edit => ({
  words: `marked ${number}`,
  steps: [{ op: 'mark', fault: { ...speckOf(number), id: `m${number}` } }],
});
/** Lets everything happen that is under way or due within so many milliseconds. */
const settle = (ms = 500): Promise<unknown> => vi.advanceTimersByTimeAsync(ms);

describe('the open picture', () => {
  let server: StandInServer;
  beforeEach(() => {
    vi.useFakeTimers();
    server = openPage();
  });
  afterEach(() => {
    vi.useRealTimers();
    vi.unstubAllGlobals();
  });

  const opened = async (id = 'p') => {
    server.picture(id);
    const picture = usePicture();
    await picture.open(id);
    return picture;
  };
  const marked = (picture: ReturnType<typeof usePicture>): number[] =>
    picture.entries.map(({ number }) => number);

  it('shows what was done at once, and saves it in the order it was done', async () => {
    const picture = await opened();
    for (const n of [1, 2, 3]) picture.perform(marking(n));
    expect(marked(picture)).toEqual([1, 2, 3]);
    expect(picture.unsent).toHaveLength(3);
    await settle();
    expect(picture.unsent).toEqual([]);
    expect(server.picture('p').worksheet.marked.map(({ number }) => number)).toEqual([1, 2, 3]);
    expect(picture.done.map(({ words }) => words)).toEqual(['marked 1', 'marked 2', 'marked 3']);
  });

  it('goes back and forth through its history, also by several steps at once', async () => {
    const picture = await opened();
    for (const n of [1, 2, 3]) picture.perform(marking(n));
    await settle();
    picture.goBy(-2);
    await settle();
    expect(marked(picture)).toEqual([1]);
    expect(picture.undone).toHaveLength(2);
    picture.goBy(1);
    await settle();
    expect(marked(picture)).toEqual([1, 2]);
    picture.perform(marking(4));
    expect(picture.undone).toEqual([]);
    await settle();
    expect(marked(picture)).toEqual([1, 2, 4]);
  });

  it('takes nothing back where nothing was done', async () => {
    const picture = await opened();
    picture.undo();
    picture.redo();
    await settle();
    expect(server.asked.map(({ method }) => method)).toEqual(['GET']);
  });

  it('keeps what was done through an outage, says so meanwhile, and says nothing once all is saved', async () => {
    const picture = await opened();
    server.breakLine();
    server.refuse(503, 'The database is away.');
    picture.perform(marking(1));
    picture.perform(marking(2));
    await settle();
    expect(picture.notice).not.toBeNull();
    expect(picture.unsent).toHaveLength(2);
    await settle(2000);
    expect(picture.notice).toBe('The database is away.');
    await settle(4000);
    expect(picture.notice).toBeNull();
    expect(server.picture('p').worksheet.marked).toHaveLength(2);
  });

  it('shows what the server has where that refuses, and keeps the reason in sight', async () => {
    const picture = await opened();
    server.picture('p').edit(marking(9));
    server.refuse(409, 'The picture was changed meanwhile.');
    picture.perform(marking(1));
    picture.perform(marking(2));
    expect(marked(picture)).toEqual([1, 2]);
    await settle();
    expect(marked(picture)).toEqual([9]);
    expect(picture.unsent).toEqual([]);
    expect(picture.notice).toBe('The picture was changed meanwhile.');
    picture.perform(marking(3));
    await settle();
    expect(marked(picture)).toEqual([3, 9]);
  });

  it('takes over what another window did, unless something of its own is on its way', async () => {
    const picture = await opened();
    server.picture('p').edit(marking(7));
    await picture.heardEdit(2);
    expect(marked(picture)).toEqual([7]);
    expect(picture.notice).not.toBeNull();
    await picture.heardEdit(2);
    picture.perform(marking(1));
    const before = server.asked.length;
    await picture.heardEdit(50);
    expect(server.asked).toHaveLength(before);
    await settle();
    expect(marked(picture)).toEqual([1, 7]);
  });

  it('does not take work that it asked for itself for another window’s', async () => {
    const picture = await opened();
    await picture.haveEdited(async () => {
      server.picture('p').edit(marking(5));
      await picture.heardEdit(2);
      expect(marked(picture)).toEqual([]);
    });
    expect(marked(picture)).toEqual([5]);
    expect(picture.notice).toBeNull();
  });

  it('saves what waits before another one is opened, and forgets the one that was left', async () => {
    const picture = await opened();
    picture.perform(marking(1));
    server.picture('q');
    const isStillOpen = picture.rememberOpen();
    expect(isStillOpen()).toBe(true);
    const opening = picture.open('q');
    await settle();
    await opening;
    expect(isStillOpen()).toBe(false);
    expect(picture.picture?.id).toBe('q');
    expect(marked(picture)).toEqual([]);
    expect(server.picture('p').worksheet.marked).toHaveLength(1);
  });

  it('is the one that was asked for last, whichever answer comes first', async () => {
    const picture = usePicture();
    for (const id of ['p', 'q', 'r']) server.picture(id);
    await Promise.all([picture.open('p'), picture.open('q'), picture.open('r')]);
    expect(picture.picture?.id).toBe('r');
  });

  it('is asked for once however often it is opened at the same time', async () => {
    const picture = usePicture();
    server.picture('p');
    await Promise.all([picture.open('p'), picture.open('p')]);
    expect(server.asked).toHaveLength(1);
  });

  it('that cannot be opened says why', async () => {
    const picture = usePicture();
    server.refuse(404, 'There is no such picture.');
    await picture.open('gone');
    expect(picture.picture).toBeNull();
    expect(picture.problem).toBe('There is no such picture.');
  });

  it('sends what waits in a way that outlives the page that is being left', async () => {
    const picture = await opened();
    picture.perform(marking(1));
    picture.saveNow();
    await settle(0);
    expect(server.asked.at(-1)).toMatchObject({ path: '/pictures/p/edits', outlivesPage: true });
  });

  it('lets an undo wait for a stroke that is not laid down yet', async () => {
    const picture = await opened();
    picture.perform(marking(1));
    await settle();
    let lay = (): void => undefined;
    picture.willEdit(new Promise<void>((resolve) => (lay = resolve)).then(() => picture.perform(marking(2))));
    picture.undo();
    lay();
    await settle();
    expect(marked(picture)).toEqual([1]);
  });

  it('gives numbers that are free, however many marks are on their way', async () => {
    const picture = await opened();
    const numbers = [1, 2, 3].map(() => {
      const number = picture.freeNumber();
      picture.perform(marking(number));
      return number;
    });
    expect(new Set(numbers).size).toBe(3);
  });
});
