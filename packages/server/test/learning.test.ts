import type { NumberedFault } from '@fennip/core/fault';
import { mulberry } from '@fennip/core/random';
import type { Job, JobLearning, Picture, PictureSheet } from '@fennip/contract';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestServer } from './testServer.ts';
import { startTestServer } from './testServer.ts';

/** A calm picture with bright and dark discs. */
async function specked(): Promise<Buffer> {
  const [width, height] = [720, 480];
  const uniform = mulberry(5);
  const noise = Buffer.from(Uint8Array.from({ length: 3 * width * height }, () => 120 + 6 * uniform()));
  const discs = Array.from({ length: 24 }, (_, k) => {
    const [x, y] = [60 + 120 * (k % 6), 60 + 120 * Math.floor(k / 6)];
    return `<circle cx="${x}" cy="${y}" r="${3 + (k % 4)}" fill="${k % 2 === 0 ? '#fff' : '#222'}"/>`;
  });
  const drawn = Buffer.from(`<svg width="${width}" height="${height}">${discs.join('')}</svg>`);
  return sharp(noise, { raw: { width, height, channels: 3 } })
    .composite([{ input: drawn }])
    .png()
    .toBuffer();
}

let server: TestServer;
let job: Job;
beforeAll(async () => {
  server = await startTestServer();
  job = await server.post<Job>('/jobs', { name: 'Learns from its restorer' });
});
afterAll(() => server.close());

const WISH = { sensitivity: 0.8, polarities: ['dark', 'bright'] };

async function examined(name: string, of: Job = job): Promise<Picture> {
  const { id } = await server.add(of.id, name, await specked());
  await server.until(of.id, id, ({ state }) => state !== 'preparing');
  await server.post(`/pictures/${id}/examination`, WISH);
  return server.until(of.id, id, (picture) => picture.examined === 'done');
}
const findingsOf = ({ id }: Picture): Promise<NumberedFault[]> => server.get(`/pictures/${id}/findings`);
const isBrightSpeck = ({ kind, polarity }: NumberedFault): boolean =>
  kind === 'speck' && polarity === 'bright';
const meanOf = (faults: readonly NumberedFault[]): number =>
  faults.reduce((sum, { confidence }) => sum + confidence, 0) / faults.length;

describe('a job', () => {
  it('learns from what was dismissed on its pictures for the others, until it forgets', async () => {
    const [first, second] = [await examined('first.png'), await examined('second.png')];
    const before = await findingsOf(second);
    const sheet = await server.get<PictureSheet>(`/pictures/${first.id}`);
    const dismissed = sheet.faults.filter(isBrightSpeck);
    expect(dismissed.length).toBeGreaterThan(2);
    await server.post(`/pictures/${first.id}/edits`, {
      revision: sheet.picture.revision,
      edit: {
        words: 'Dismissed',
        steps: dismissed.map(({ id }) => ({ op: 'judge', fault: id, as: 'dismissed' })),
      },
    });
    const path = `/jobs/${job.id}/learning`;
    expect(await server.get<JobLearning>(path)).toEqual({ pictures: 1, decisions: dismissed.length });

    // The same discs lie in the other picture, at the same places.
    const after = await findingsOf(second);
    expect(meanOf(after.filter(isBrightSpeck))).toBeLessThan(0.6 * meanOf(before.filter(isBrightSpeck)));
    expect(meanOf(after.filter((one) => !isBrightSpeck(one)))).toBeGreaterThan(
      0.7 * meanOf(before.filter((one) => !isBrightSpeck(one))),
    );
    // What is listed follows when it is decided anew; on the picture itself nothing moves.
    const listed = async (): Promise<number> =>
      (await server.get<PictureSheet>(`/pictures/${second.id}`)).faults.filter(isBrightSpeck).length;
    const listedBefore = await listed();
    await server.post(`/pictures/${second.id}/examination`, WISH);
    expect(await listed()).toBeLessThan(listedBefore);
    // A picture never learns from itself: what was dismissed there is still measured as it was.
    expect(meanOf((await findingsOf(first)).filter(isBrightSpeck))).toBeCloseTo(
      meanOf(before.filter(isBrightSpeck)),
      6,
    );

    // Another job is another subject.
    const other = await server.post<Job>('/jobs', { name: 'Another' });
    const elsewhere = await examined('third.png', other);
    expect(meanOf((await findingsOf(elsewhere)).filter(isBrightSpeck))).toBeCloseTo(
      meanOf(before.filter(isBrightSpeck)),
      6,
    );

    const forgotten = await fetch(`${server.address()}/api${path}`, { method: 'DELETE' });
    expect(await forgotten.json()).toEqual({ pictures: 0, decisions: 0 });
    expect(meanOf((await findingsOf(second)).filter(isBrightSpeck))).toBeCloseTo(
      meanOf(before.filter(isBrightSpeck)),
      6,
    );
    const { judgements } = await server.get<PictureSheet>(`/pictures/${first.id}`);
    expect(Object.keys(judgements)).toHaveLength(dismissed.length);
  });
});
