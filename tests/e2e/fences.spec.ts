import type { Fence } from '@fennip/core/fence';
import type { Mend } from '@fennip/core/mend';
import type { Raster } from '@fennip/core/raster';
import { comparePictures } from '@fennip/core/measure';
import { mulberry } from '@fennip/core/random';
import { createRaster } from '@fennip/core/raster';
import type { Page } from '@playwright/test';
import sharp from 'sharp';
import { deskOf, drag, saved, toStage } from './desk.ts';
import { addFiles, expect, makeJob, test } from './fixtures.ts';
import { workerSamples } from './workerSamples.ts';

const [WIDTH, HEIGHT] = [900, 640];
/** The wreck that must stay as it is. */
const WRECK = { left: 380, top: 300, right: 760, bottom: 560 };
const isWreck = (x: number, y: number): boolean =>
  x >= WRECK.left && x < WRECK.right && y >= WRECK.top && y < WRECK.bottom;

interface Particle {
  readonly x: number;
  readonly y: number;
  readonly r: number;
}

/** How much of each pixel particles cover, with a border of a pixel; `beyond` widens them. */
function coveredBy(particles: readonly Particle[], beyond = 0): Float32Array {
  const covered = new Float32Array(WIDTH * HEIGHT);
  for (const { x, y, r } of particles) {
    const reach = r + beyond + 1;
    for (let py = Math.max(0, Math.floor(y - reach)); py < Math.min(HEIGHT, y + reach); py++)
      for (let px = Math.max(0, Math.floor(x - reach)); px < Math.min(WIDTH, x + reach); px++) {
        const share = Math.min(1, Math.max(0, r + beyond + 0.5 - Math.hypot(px + 0.5 - x, py + 0.5 - y)));
        covered[py * WIDTH + px] = Math.max(covered[py * WIDTH + px], share);
      }
  }
  return covered;
}

/** Water that gets darker downwards, with grain, and a wreck of planks with rivets in it. */
function underwater(particles: readonly Particle[]): Raster {
  const raster = createRaster(WIDTH, HEIGHT, 3, 8);
  const uniform = mulberry(7);
  const covered = coveredBy(particles);
  for (let y = 0, i = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++, i++) {
      const grain = 3 * (uniform() + uniform() + uniform() - 1.5);
      const plank = 40 * Math.sin(y / 6) ** 8 + (x % 24 < 3 && y % 24 < 3 ? 60 : 0);
      const lit = covered[i];
      raster.planes.forEach((plane, c) => {
        const water = [18, 62, 70][c] + ([6, 30, 34][c] * (HEIGHT - y)) / HEIGHT;
        const under = isWreck(x, y) ? [60, 80, 66][c] + plank : water;
        plane[i] = Math.max(0, Math.min(255, Math.round((1 - lit) * under + lit * 190 + grain)));
      });
    }
  return raster;
}

function manyParticles(): Particle[] {
  const uniform = mulberry(3);
  return Array.from({ length: 500 }, () => ({
    x: uniform() * WIDTH,
    y: uniform() * HEIGHT,
    r: 1 + 2.5 * uniform(),
  }));
}

function png({ planes }: Raster): Promise<Buffer> {
  const data = Buffer.alloc(WIDTH * HEIGHT * 3);
  planes.forEach((plane, c) => plane.forEach((value, i) => (data[3 * i + c] = value)));
  return sharp(data, { raw: { width: WIDTH, height: HEIGHT, channels: 3 } })
    .png()
    .toBuffer();
}

const recipeOf = async (page: Page): Promise<{ fences?: Fence[]; mends: Mend[] }> =>
  (await saved(page)).recipe as unknown as { fences?: Fence[]; mends: Mend[] };

/** The picture as the page's own worker renders it. */
async function rendered(page: Page): Promise<Raster> {
  const id = /pictures\/([^/]+)/.exec(page.url())?.[1] ?? '';
  const samples = await workerSamples(page, id);
  const raster = createRaster(WIDTH, HEIGHT, 3, 8);
  raster.planes.forEach((plane, c) => plane.set(samples[c]));
  return raster;
}

test('water in a zone is sifted, a guarded wreck keeps every value, and what is painted out comes back', async ({
  quietPage: page,
}) => {
  const particles = manyParticles();
  const [clean, dirty] = [underwater([]), underwater(particles)];
  await makeJob(page, 'Quarry');
  await addFiles(page, [{ name: 'quarry.png', buffer: await png(dirty) }]);
  await page.locator('[data-picture="quarry.png"]').click();
  await toStage(page, 'Mend');
  const desk = await deskOf(page, { width: WIDTH, height: HEIGHT });

  // A guard, by a rectangle around the wreck.
  await page.keyboard.press('g');
  await page.getByText('Rectangle', { exact: true }).click();
  await drag(page, [desk.at(WRECK.left - 4, WRECK.top - 4), desk.at(WRECK.right + 4, WRECK.bottom + 4)]);
  await expect.poll(async () => (await recipeOf(page)).fences?.length).toBe(1);

  // A zone, grown from one touch on the water; its holes, where particles are, filled by one key.
  await page.keyboard.press('z');
  await page.getByText('Touch', { exact: true }).click();
  await page.mouse.click(...desk.at(150, 200));
  await expect.poll(async () => (await recipeOf(page)).fences?.length).toBe(2);
  await page.keyboard.press('h');
  await expect.poll(async () => (await saved(page)).done.at(-1)?.words).toContain('Filled the holes');
  const zone = (await recipeOf(page)).fences?.[1];
  if (zone?.area.shape !== 'mask') throw new Error('an area that was grown is a mask');
  const inZone = zone.area.runs.reduce((sum, run, k) => sum + (k % 2 === 1 ? run : 0), 0);
  const water = WIDTH * HEIGHT - (WRECK.right - WRECK.left) * (WRECK.bottom - WRECK.top);
  expect(inZone / water).toBeGreaterThan(0.85);
  expect(inZone / water).toBeLessThan(1.1);
  await page.keyboard.press('Escape');

  // Sift on the zone.
  await page.getByTestId('treat').click();
  await page.getByRole('menuitem', { name: /Sift/ }).click();
  await page.getByRole('combobox', { name: 'The zone that bounds' }).press('Enter');
  await page.getByRole('option', { name: 'B Zone 1' }).click();
  await page.getByTestId('treat-all').click();
  await expect.poll(async () => (await recipeOf(page)).mends.map(({ method }) => method)).toEqual(['sift']);
  const sifted = await rendered(page);
  const damaged = Uint8Array.from(coveredBy(particles, 0.5), (share, i) => {
    const [x, y] = [i % WIDTH, Math.floor(i / WIDTH)];
    const isNearWreck = [-6, 6].some((dx) => [-6, 6].some((dy) => isWreck(x + dx, y + dy)));
    return share > 0 && !isNearWreck ? 1 : 0;
  });
  const before = comparePictures(dirty, clean, damaged);
  const after = comparePictures(sifted, clean, damaged);
  expect((after.psnr ?? Infinity) - (before.psnr ?? 0)).toBeGreaterThan(8);
  expect(after.texture).toBeGreaterThan(0.7);
  const guarded = sifted.planes.flatMap((plane, c) =>
    [...plane].filter(
      (value, i) => isWreck(i % WIDTH, Math.floor(i / WIDTH)) && value !== dirty.planes[c][i],
    ),
  );
  expect(guarded).toEqual([]);

  // A stroke with Alt paints it out again, as one step that undo takes back.
  await page.keyboard.down('Alt');
  await drag(page, [desk.at(100, 100), desk.at(300, 110)]);
  await page.keyboard.up('Alt');
  await expect.poll(async () => (await recipeOf(page)).mends[0].paint?.length).toBe(1);
  const painted = await rendered(page);
  const isAsBefore = (raster: Raster, x: number, y: number): boolean =>
    raster.planes.every((plane, c) => plane[y * WIDTH + x] === dirty.planes[c][y * WIDTH + x]);
  const lit = particles.filter((p) => p.x > 120 && p.x < 280 && Math.abs(p.y - 105) < 20);
  expect(lit.length).toBeGreaterThan(1);
  for (const { x, y } of lit) expect(isAsBefore(painted, Math.floor(x), Math.floor(y))).toBe(true);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await recipeOf(page)).mends[0].paint).toBeUndefined();

  // A zone that is taken away sets its mends free; all of it is still there after a reload.
  await page.reload();
  await expect(page.getByRole('region', { name: 'Fences' })).toBeVisible();
  await page.getByRole('button', { name: 'More for Zone 1' }).click();
  await page.getByRole('menuitem', { name: 'Take away' }).click();
  await expect.poll(async () => (await recipeOf(page)).fences?.length).toBe(1);
  expect((await recipeOf(page)).mends[0].zone).toBeUndefined();
});

test('an area is drawn, added to, taken from, inverted, named and switched off', async ({
  quietPage: page,
}) => {
  await makeJob(page, 'Areas');
  await addFiles(page, [{ name: 'quarry.png', buffer: await png(underwater([])) }]);
  await page.locator('[data-picture="quarry.png"]').click();
  await toStage(page, 'Mend');
  const desk = await deskOf(page, { width: WIDTH, height: HEIGHT });
  const areaOf = async (): Promise<number> => {
    const area = (await recipeOf(page)).fences?.[0]?.area;
    return area?.shape === 'mask' ? area.runs.reduce((sum, run, k) => sum + (k % 2 === 1 ? run : 0), 0) : 0;
  };
  const near = (wanted: number) =>
    expect.poll(async () => Math.abs((await areaOf()) / wanted - 1) < 0.06).toBe(true);
  await page.keyboard.press('z');
  // A field that is left without a number keeps the one it had.
  await page.getByText('Brush', { exact: true }).click();
  const size = page.getByLabel('Radius of the mark in pixels');
  await size.fill('');
  await size.blur();
  await page.keyboard.press('d');
  await expect(size).toHaveValue('46');
  await page.getByText('Rectangle', { exact: true }).click();
  await drag(page, [desk.at(100, 100), desk.at(300, 300)]);
  await near(40_000);
  await drag(page, [desk.at(300, 100), desk.at(400, 300)]);
  await near(60_000);
  // With Alt what is drawn is taken away; the polygon is closed by Enter.
  await page.keyboard.down('Alt');
  await drag(page, [desk.at(100, 100), desk.at(200, 300)]);
  await page.keyboard.up('Alt');
  await near(40_000);
  await page.getByText('Outline', { exact: true }).click();
  await page.getByText('Intersect', { exact: true }).click();
  for (const [x, y] of [
    [200, 100],
    [400, 100],
    [400, 200],
    [200, 200],
  ])
    await page.mouse.click(...desk.at(x, y));
  await page.keyboard.press('Enter');
  await near(20_000);
  await page.getByRole('button', { name: 'More for Zone 1' }).click();
  await page.getByRole('menuitem', { name: 'Invert' }).click();
  await near(WIDTH * HEIGHT - 20_000);
  await page.keyboard.press('Control+z');
  await near(20_000);
  await page.getByRole('button', { name: /^Zone 1/ }).dblclick();
  await page.getByLabel('Name of the fence').fill('Hull');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await recipeOf(page)).fences?.[0]?.name).toBe('Hull');
  // The switch is drawn over its input, which is for the keys.
  await page.getByRole('switch', { name: 'Hull counts' }).press('Space');
  await expect.poll(async () => (await recipeOf(page)).fences?.[0]?.on).toBe(false);
  // The area as a file: white is in.
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page
      .getByRole('button', { name: 'More for Hull' })
      .click()
      .then(() => page.getByRole('menuitem', { name: 'Save as PNG' }).click()),
  ]);
  const { data, info } = await sharp(await download.path())
    .greyscale()
    .raw()
    .toBuffer({ resolveWithObject: true });
  expect([info.width, info.height]).toEqual([WIDTH, HEIGHT]);
  expect(data.reduce((sum, value) => sum + (value > 128 ? 1 : 0), 0)).toBe(await areaOf());
});

test('a picture is held against itself: the program finds the vector, and the hand drags it', async ({
  quietPage: page,
}) => {
  const particles = manyParticles().filter(({ x, y }) => !isWreck(x, y));
  await makeJob(page, 'Against itself');
  await addFiles(page, [{ name: 'water.png', buffer: await png(underwater(particles)) }]);
  await page.locator('[data-picture="water.png"]').click();
  await toStage(page, 'Mend');
  const desk = await deskOf(page, { width: WIDTH, height: HEIGHT });
  const shift = async (): Promise<{ dx: number; dy: number }> =>
    (await recipeOf(page)).mends[0] as unknown as { dx: number; dy: number };
  await page.getByTestId('treat').click();
  await page.getByRole('menuitem', { name: /^Shift/ }).click();
  await page.getByTestId('treat-all').click();
  await expect.poll(async () => (await recipeOf(page)).mends.length).toBe(1);
  const before = await shift();
  await page.getByRole('button', { name: 'Find it' }).click();
  await expect.poll(shift).not.toEqual(before);
  const found = await shift();
  // Of what was bright in the water hardly anything is left.
  const [clean, seen, mended] = [underwater([]), underwater(particles), await rendered(page)];
  const brightIn = ({ planes }: Raster): number =>
    clean.planes[1].filter((value, i) => planes[1][i] - value > 40).length;
  expect(brightIn(mended)).toBeLessThan(0.12 * brightIn(seen));

  await page.keyboard.press('Escape');
  await drag(page, [desk.at(200, 120), desk.at(212, 113)]);
  await expect.poll(async () => (await shift()).dx).not.toBe(found.dx);
  const { dx, dy } = await shift();
  expect(Math.abs(dx - (found.dx - 12))).toBeLessThanOrEqual(2);
  expect(Math.abs(dy - (found.dy + 7))).toBeLessThanOrEqual(2);
  await page.keyboard.press('Control+z');
  await expect.poll(shift).toEqual(found);
});

test('a patch takes the tone and colour of a reference, and says so where none is set', async ({
  quietPage: page,
}) => {
  await makeJob(page, 'Alike');
  await addFiles(page, [{ name: 'water.png', buffer: await png(underwater([])) }]);
  await page.locator('[data-picture="water.png"]').click();
  await toStage(page, 'Mend');
  const desk = await deskOf(page, { width: WIDTH, height: HEIGHT });
  await page.getByTestId('treat').click();
  await page.getByRole('menuitem', { name: /^Match/ }).click();
  const paint = (): Promise<void> => drag(page, [desk.at(140, 600), desk.at(200, 600)]);
  await paint();
  await expect(page.getByText(/^Set a reference first/)).toBeVisible();

  await page.keyboard.down('a');
  await page.mouse.click(...desk.at(150, 40));
  await page.keyboard.up('a');
  await paint();
  await expect.poll(async () => (await recipeOf(page)).mends.map(({ method }) => method)).toEqual(['match']);
  const [clean, mended] = [underwater([]), await rendered(page)];
  const meanIn = ({ planes }: Raster, c: number, left: number, top: number): number => {
    let sum = 0;
    for (let y = top; y < top + 6; y++)
      for (let x = left; x < left + 20; x++) sum += planes[c][y * WIDTH + x] / 120;
    return sum;
  };
  for (const c of [1, 2]) {
    const reference = meanIn(clean, c, 140, 37);
    expect(reference - meanIn(clean, c, 160, 597)).toBeGreaterThan(20);
    expect(Math.abs(reference - meanIn(mended, c, 160, 597))).toBeLessThan(4);
    expect(meanIn(mended, c, 400, 597)).toBe(meanIn(clean, c, 400, 597));
  }
});
