import { ENDPOINTS, addressOf } from '@fennip/contract';
import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { openPage } from '../testing/openPage.ts';
import type { StandInServer } from '../testing/standInServer.ts';
import { call, callOutliving } from './call.ts';
import { AnswerError, sentenceOf } from './http.ts';

let server: StandInServer;
beforeEach(() => {
  server = openPage();
});
afterEach(() => void vi.unstubAllGlobals());

describe('a call of the server', () => {
  it('goes where the table of endpoints says, with what it says', async () => {
    server.on('POST /jobs', ({ body }) => ({ id: 'j', ...(body as object) }));
    expect(await call('makeJob', {}, { name: 'Mill' })).toMatchObject({ name: 'Mill' });
    expect(server.asked).toEqual([
      { method: 'POST', path: '/jobs', body: { name: 'Mill' }, outlivesPage: false },
    ]);
  });

  it('answers nothing where there is nothing to answer', async () => {
    server.on('DELETE /pictures/p', () => null);
    expect(await call('removePicture', { picture: 'p' })).toBeUndefined();
  });

  it('that is refused throws the sentence of the problem, and its status', async () => {
    server.refuse(409, 'The picture was changed meanwhile.');
    const error = await call('picture', { picture: 'p' }).catch((reason: unknown) => reason);
    expect(error).toBeInstanceOf(AnswerError);
    expect(error).toMatchObject({ status: 409, message: 'The picture was changed meanwhile.' });
  });

  it('that finds nobody throws status 0, with a sentence all the same', async () => {
    server.breakLine();
    const error = await call('jobs', {}).catch((reason: unknown) => reason);
    expect(error).toMatchObject({ name: 'AnswerError', status: 0 });
    expect((error as AnswerError).message).not.toBe('');
  });

  it('outlives the page where that is asked for, unless it is larger than a browser sends then', async () => {
    server.on('POST /jobs', () => ({}));
    await callOutliving('makeJob', {}, { name: 'small' });
    await callOutliving('makeJob', {}, { name: 'x'.repeat(70_000) });
    expect(server.asked.map(({ outlivesPage }) => outlivesPage)).toEqual([true, false]);
  });

  it('reads a sentence from whatever came instead of an answer', () => {
    expect(sentenceOf('{"detail":"The disk is full."}')).toBe('The disk is full.');
    for (const body of ['', '<html>502</html>', '{}', '{"detail":""}'])
      expect(sentenceOf(body)).toBe(sentenceOf('not a problem'));
  });
});

describe('an address', () => {
  it('holds any name as one part of it, and comes back from it', () => {
    fc.assert(
      fc.property(fc.string({ minLength: 1, unit: 'grapheme' }), fc.string(), (id, name) => {
        const address = addressOf('addPicture', { job: id }, { name, place: '3' });
        const url = new URL(address, 'http://127.0.0.1');
        const parts = url.pathname.split('/');
        // The dots of a path alone are taken for folders by the standard (WHATWG URL, 4.4).
        fc.pre(id !== '.' && id !== '..');
        expect(parts).toHaveLength(5);
        expect(decodeURIComponent(parts[3])).toBe(id);
        expect(url.searchParams.get('name')).toBe(name);
      }),
    );
  });

  it('of each endpoint is one of its own', () => {
    const all = Object.values(ENDPOINTS).map(({ method, path }) => `${method} ${path.replace(/:\w+/g, ':')}`);
    expect(new Set(all).size).toBe(all.length);
  });

  it('has no question mark where nothing stands behind it', () => {
    expect(addressOf('jobs', {})).toBe('/api/jobs');
    expect(addressOf('crop', { picture: 'p' }, { x: '1' })).toBe('/api/pictures/p/crop?x=1');
  });
});
