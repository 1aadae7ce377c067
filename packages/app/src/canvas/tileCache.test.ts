import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { TileKey } from '../engine/paint/tileKey.ts';
import { openPage } from '../testing/openPage.ts';
import type { TileCache } from './tileCache.ts';
import { createTileCache } from './tileCache.ts';

const SIGHT = {
  ...{ width: 2000, height: 1500, mostLevels: 9 },
  covered: ({ level, column, row }: TileKey) => {
    const side = 512 * 2 ** level;
    return { left: column * side, top: row * side, width: side, height: side };
  },
};
const tile = (level: number, column = 0, row = 0): TileKey => ({ side: 'after', level, column, row });
/** A bitmap that knows whether it was let go. */
const bitmap = () => ({ width: 512, height: 512, close: vi.fn() });
const asBitmap = (one: ReturnType<typeof bitmap>): ImageBitmap => one as unknown as ImageBitmap;
const WHOLE = { left: 0, top: 0, width: 2000, height: 1500 };
const SEEN = { side: 'after' as const, level: 1, rect: { left: 0, top: 0, width: 900, height: 700 } };

describe('the tiles of a picture', () => {
  let cache: TileCache;
  const arrived = vi.fn();
  /** The number of the list that stands: the newest bitmap that is taken tells it. */
  let list: number;

  beforeEach(() => {
    vi.useFakeTimers();
    openPage();
    arrived.mockClear();
    cache = createTileCache(SIGHT, arrived);
    cache.want([tile(0), tile(1)], SEEN);
    // Lists are counted over all pictures: which one stands is found out as the painter would be told it.
    list = 0;
    for (let k = 1; k < 500 && list === 0; k++) {
      const probe = bitmap();
      cache.touchUp({ level: 1, rect: SEEN.rect }, asBitmap(probe), k);
      if (probe.close.mock.calls.length === 0) list = k;
    }
    cache.invalidateAll();
    arrived.mockClear();
  });
  afterEach(() => {
    cache.clear();
    vi.useRealTimers();
    vi.unstubAllGlobals();
  });

  it('has levels from full size down to one tile', () => {
    expect(cache.levels.map(({ width }) => width)).toEqual([2000, 1000, 500]);
  });

  it('takes a tile that came without being asked for, and lets the older one go', () => {
    const [first, second] = [bitmap(), bitmap()];
    cache.take(tile(0), asBitmap(first), list);
    expect(cache.get(tile(0))).toBe(first);
    cache.take(tile(0), asBitmap(second), list);
    expect(cache.get(tile(0))).toBe(second);
    expect(first.close).toHaveBeenCalledTimes(1);
    expect(arrived).toHaveBeenCalledTimes(2);
  });

  it('throws away what was wanted for another picture', () => {
    const late = bitmap();
    cache.take(tile(0), asBitmap(late), 0);
    expect(late.close).toHaveBeenCalledTimes(1);
    expect(cache.get(tile(0))).toBeNull();
  });

  it('keeps an outdated tile in sight until a new one comes', () => {
    const old = bitmap();
    cache.take(tile(0), asBitmap(old), list);
    cache.soil(WHOLE, null);
    expect(cache.get(tile(0))).toBe(old);
    expect(old.close).not.toHaveBeenCalled();
  });

  it('lays a part that changed over its tiles while these are still painted', () => {
    const touch = bitmap();
    const part = { level: 0, rect: { left: 10, top: 10, width: 20, height: 20 } };
    cache.soil(part.rect, list);
    cache.touchUp(part, asBitmap(touch), list);
    expect(cache.touches()).toMatchObject([part]);
    cache.take(tile(1), asBitmap(bitmap()), list);
    expect(cache.touches()).toHaveLength(1);
    expect(touch.close).not.toHaveBeenCalled();
  });

  it('shows a sheet instead of tiles that look different, and takes it away when one looks elsewhere', () => {
    for (const key of [tile(0), tile(1)]) cache.take(key, asBitmap(bitmap()), list);
    cache.soil(WHOLE, 'sheet');
    const sheet = bitmap();
    cache.lay(SEEN, asBitmap(sheet), list);
    expect(cache.hasSheets()).toBe(true);
    expect([...cache.sheets()]).toHaveLength(1);
    cache.want([tile(0, 1, 1)], SEEN);
    expect(cache.hasSheets()).toBe(false);
    expect(sheet.close).toHaveBeenCalledTimes(1);
  });

  it('has a newer sheet in the place of an older one of the same part', () => {
    const [older, newer] = [bitmap(), bitmap()];
    for (const one of [older, newer]) cache.lay(SEEN, asBitmap(one), list);
    expect(older.close).toHaveBeenCalledTimes(1);
    expect([...cache.sheets()]).toHaveLength(1);
  });

  it('takes the sheets away where a change comes that they know nothing of', () => {
    const sheet = bitmap();
    cache.lay(SEEN, asBitmap(sheet), list);
    cache.soil(WHOLE, list);
    expect(cache.hasSheets()).toBe(false);
    expect(arrived).toHaveBeenLastCalledWith(null);
  });

  it('throws away parts of what was in sight before', () => {
    cache.want([tile(0, 2, 2)], SEEN);
    const [touch, sheet] = [bitmap(), bitmap()];
    cache.touchUp({ level: 0, rect: SEEN.rect }, asBitmap(touch), list);
    cache.lay(SEEN, asBitmap(sheet), list);
    expect([touch, sheet].map(({ close }) => close.mock.calls.length)).toEqual([1, 1]);
  });

  it('lets everything go with the picture', () => {
    const all = [bitmap(), bitmap(), bitmap()];
    cache.take(tile(0), asBitmap(all[0]), list);
    cache.lay(SEEN, asBitmap(all[1]), list);
    cache.touchUp({ level: 0, rect: SEEN.rect }, asBitmap(all[2]), list);
    cache.clear();
    for (const { close } of all) expect(close).toHaveBeenCalledTimes(1);
  });
});
