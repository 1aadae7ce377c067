import { copyFile, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { FaultsFile } from '@fennip/contract';
import { checkAssembly } from '@fennip/contract/check';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { main } from './main.ts';

const SCAN = 'valley-torn-in-two.tif';
const PICTURES = fileURLToPath(new URL('../../scenes/pictures', import.meta.url));

let folder = '';
const file = (name: string): string => join(folder, name);

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'fennip-join-'));
  await copyFile(join(PICTURES, SCAN), file(SCAN));
});
afterAll(() => rm(folder, { recursive: true }));

/** A command with what it said. */
async function fennip(...args: string[]): Promise<{ status: number; said: string }> {
  let said = '';
  const listen = (stream: NodeJS.WriteStream) =>
    vi.spyOn(stream, 'write').mockImplementation((text) => {
      said += String(text);
      return true;
    });
  const spies = [listen(process.stdout), listen(process.stderr)];
  try {
    return { status: await main(args), said };
  } finally {
    spies.forEach((spy) => spy.mockRestore());
  }
}

describe('a torn print on a scan', () => {
  it('becomes one picture, with its seams listed, and again the same from its assembly', async () => {
    const documents = ['--assembly', file('a.json'), '--faults', file('seams.json')];
    const joined = await fennip('join', file(SCAN), ...documents, '--out', file('joined.tif'));
    expect(joined).toMatchObject({ status: 0 });
    expect(joined.said).toContain('2 pieces found, 2 of them joined');
    const { width, height, density } = await sharp(file('joined.tif')).metadata();
    // The print is 1350 x 900 at 300 ppi.
    expect(Math.abs(width - 1350)).toBeLessThan(12);
    expect(Math.abs(height - 900)).toBeLessThan(12);
    expect(density).toBe(300);
    const list = JSON.parse(await readFile(file('seams.json'), 'utf8')) as FaultsFile;
    expect(list.picture).toMatchObject({ width, height });
    expect(list.faults.length).toBeGreaterThan(5);
    const document = checkAssembly(JSON.parse(await readFile(file('a.json'), 'utf8')));
    expect(document.scans).toMatchObject([{ name: SCAN }]);
    expect(document.joins[0].confidence).toBeGreaterThan(0.9);

    const again = await fennip('join', '--assembly', file('a.json'), '--out', file('again.tif'));
    expect(again).toMatchObject({ status: 0 });
    expect(await readFile(file('again.tif'))).toEqual(await readFile(file('joined.tif')));
  });

  it('is not made from another scan than its assembly says', async () => {
    const document = JSON.parse(await readFile(file('a.json'), 'utf8')) as { scans: { sha256: string }[] };
    document.scans[0].sha256 = '0'.repeat(64);
    await writeFile(file('other.json'), JSON.stringify(document));
    const outcome = await fennip('join', '--assembly', file('other.json'), '--out', file('x.tif'));
    expect(outcome.status).toBe(1);
    expect(outcome.said).toContain('is not the scan that the assembly was made from');
  });

  it('names the first mistake in an assembly', async () => {
    const document = JSON.parse(await readFile(file('a.json'), 'utf8')) as { pieces: { scan: number }[] };
    document.pieces[1].scan = 7;
    await writeFile(file('wrong.json'), JSON.stringify(document));
    const outcome = await fennip('join', '--assembly', file('wrong.json'), '--out', file('x.tif'));
    expect(outcome.status).toBe(1);
    expect(outcome.said).toContain('pieces/1/scan: there is no scan 7');
  });

  it('is refused with a sentence where there is no piece, and where scans differ', async () => {
    await sharp({ create: { width: 400, height: 300, channels: 3, background: '#eee' } })
      .png()
      .toFile(file('empty.png'));
    const none = await fennip('join', file('empty.png'), '--out', file('x.tif'));
    expect(none.status).toBe(1);
    expect(none.said).toContain('No piece was found');
    const unlike = await fennip('join', file(SCAN), file('empty.png'), '--out', file('x.tif'));
    expect(unlike.status).toBe(1);
    expect(unlike.said).toContain('not both grey or both in colour');
  });

  it('needs a scan or an assembly', async () => {
    expect((await fennip('join', '--out', file('x.tif'))).status).toBe(2);
  });
});
