import type { Job, Picture } from '@fennip/contract';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestServer } from './testServer.ts';
import { startTestServer } from './testServer.ts';

let server: TestServer;
let job: Job;
beforeAll(async () => {
  server = await startTestServer();
  job = await server.post<Job>('/jobs', { name: 'A folder from the scanner' });
});
afterAll(() => server.close());

const SIDES = { width: 70, height: 50 };
const SHADES = [40, 120, 200];

/** A file of three pictures, each of one shade with a ramp of its own. */
async function threeIn(format: 'tiff' | 'webp'): Promise<Buffer> {
  const pages = await Promise.all(
    SHADES.map((shade) => {
      const pixels = Buffer.alloc(SIDES.width * SIDES.height * 3);
      for (let i = 0; i < pixels.length; i++) pixels[i] = shade + (i % 31);
      return sharp(pixels, { raw: { ...SIDES, channels: 3 } })
        .png()
        .toBuffer();
    }),
  );
  const joined = sharp(pages, { join: { animated: true } });
  return format === 'tiff'
    ? joined.withMetadata({ density: 600 }).tiff({ compression: 'lzw' }).toBuffer()
    : joined.webp({ lossless: true, loop: 0, delay: [100, 100, 100] }).toBuffer();
}

describe.each(['tiff', 'webp'] as const)('the further pictures of a %s', (format) => {
  it('are offered, and become pictures of their own with the same values, once', async () => {
    const first = await server.add(job.id, `shelf.${format}`, await threeIn(format));
    expect(first).toMatchObject({ pages: 3, pageOf: null, ...SIDES });
    const taken: Picture[] = [];
    for (const page of [1, 2])
      taken.push(await server.post<Picture>(`/pictures/${first.id}/pages/${page}`, undefined));
    const again = await server.post<Picture>(`/pictures/${first.id}/pages/1`, undefined);
    expect(again.id).toBe(taken[0].id);
    expect(taken.map(({ name, pages, pageOf }) => ({ name, pages, pageOf }))).toEqual(
      [1, 2].map((page) => ({
        name: `shelf-p${page + 1}.tif`,
        pages: 1,
        pageOf: { picture: first.id, page },
      })),
    );
    for (const [k, { id }] of [first, ...taken].entries()) {
      const { pyramid } = await server.until(job.id, id, ({ state }) => state === 'ready');
      const red = (await server.bytes(`/tiles/${pyramid}/0/0/0`)).subarray(0, 3);
      expect([...red]).toEqual([0, 3, 6].map((ramp) => SHADES[k] + ramp));
    }
  });

  it('are refused where there are none', async () => {
    const { pictures } = await server.get<{ pictures: Picture[] }>(`/jobs/${job.id}`);
    const [first] = pictures.filter(({ name }) => name === `shelf.${format}`);
    for (const page of ['0', '3', '-1', '1.5', 'x'])
      expect((await server.refusal(`/pictures/${first.id}/pages/${page}`, { method: 'POST' })).status).toBe(
        404,
      );
  });
});
