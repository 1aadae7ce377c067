import type { CDPSession, Page } from '@playwright/test';
import { deskOf, drag, openForMending, saved, toStage } from './desk.ts';
import { colourAt, expect, test } from './fixtures.ts';
import { speckedPhotograph } from './pictures.ts';

const SIZE = { width: 1024, height: 819 };
type Place = readonly [x: number, y: number];
type Points = readonly (readonly [number, number])[];

interface SavedMend {
  readonly method: string;
  readonly margin: number;
  readonly edge: number;
  readonly share: number;
  readonly reads?: string;
  readonly laying?: string;
  readonly target: {
    readonly shape: string;
    readonly x: number;
    readonly y: number;
    readonly r: number;
    readonly width: number;
    readonly points: Points;
    readonly pressure?: readonly number[];
  };
  readonly source: {
    readonly dx: number;
    readonly dy: number;
    readonly turn?: number;
    readonly scale?: number;
    readonly mirror?: boolean;
    readonly warp?: { readonly by: readonly { readonly dx: number }[] };
  };
}

const mends = async (page: Page): Promise<readonly SavedMend[]> =>
  (await saved(page)).recipe.mends as unknown as SavedMend[];
const lastMend = async (page: Page): Promise<SavedMend | undefined> => (await mends(page)).at(-1);
const lastWords = async (page: Page): Promise<string | undefined> => (await saved(page)).done.at(-1)?.words;

/** True if the application these tests run on has their picture: a test that failed is followed by an empty one. */
let isBroughtIn = false;

/** Opens the one picture of these tests, as the test before left it. */
async function openHandles(page: Page): Promise<void> {
  if (isBroughtIn) {
    await page.getByRole('link', { name: /Handles/ }).click();
    await page.locator('[data-picture="handles.png"]').click();
    await toStage(page, 'Mend');
    await expect(page.locator('[data-entry]').first()).toBeVisible();
    return;
  }
  const buffer = await speckedPhotograph('nagasaki-boats', [{ x: 512, y: 90, r: 12 }], 8);
  await openForMending(page, { job: 'Handles', name: 'handles.png', buffer });
  isBroughtIn = true;
}

/** A pen on the glass, pressing harder or softer. */
async function pen(client: CDPSession, places: readonly Place[], forces: readonly number[]): Promise<void> {
  const send = async (type: 'mousePressed' | 'mouseMoved' | 'mouseReleased', i: number): Promise<void> => {
    await client.send('Input.dispatchMouseEvent', {
      ...{ type, x: places[i][0], y: places[i][1], button: 'left', clickCount: 1, pointerType: 'pen' },
      ...{ buttons: type === 'mouseReleased' ? 0 : 1, force: forces[i] },
    });
  };
  await send('mousePressed', 0);
  for (let i = 1; i < places.length; i++) await send('mouseMoved', i);
  await send('mouseReleased', places.length - 1);
}

test('a mend stays live: its place, size, source and numbers are changed on the picture and in the proof', async ({
  quietPage: page,
}) => {
  await openHandles(page);
  const desk = await deskOf(page, SIZE);
  await page.keyboard.press('e');
  await page.mouse.click(...desk.at(300, 300));
  await expect.poll(async () => (await mends(page)).length).toBe(1);
  await page.keyboard.press('Escape');
  const made = await lastMend(page);
  if (!made) throw new Error('there is no mend');
  const { x, y } = made.target;

  await drag(page, [desk.at(x, y), desk.at(x + 20, y + 10), desk.at(x + 40, y + 20)]);
  await expect.poll(() => lastWords(page)).toBe('Moved a mend');
  const moved = await lastMend(page);
  expect(moved?.target.x).toBeCloseTo(x + 40, -1);
  expect(moved?.target.y).toBeCloseTo(y + 20, -1);

  const at = moved ?? made;
  const reach = at.target.r + at.margin;
  const corner = (by: number): Place => desk.at(at.target.x + by, at.target.y + by);
  await drag(page, [corner(reach), corner(reach * 1.5), corner(reach * 2)]);
  await expect.poll(() => lastWords(page)).toBe('Resized a mend');
  const resized = await lastMend(page);
  expect((resized?.target.r ?? 0) / at.target.r).toBeGreaterThan(1.5);

  const { dx, dy } = resized?.source ?? { dx: 0, dy: 0 };
  const source = (byX: number): Place => desk.at(at.target.x + dx + byX, at.target.y + dy);
  await drag(page, [source(0), source(15), source(30)]);
  await expect.poll(() => lastWords(page)).toBe('Moved a source');
  expect((await lastMend(page))?.source.dx).toBeCloseTo(dx + 30, -1);

  // With Alt a corner of the copied piece is pulled, not the mend made larger; and let go again.
  const now = (await lastMend(page)) ?? at;
  const grown = now.target.r + now.margin;
  const lower = (by: number): Place => desk.at(now.target.x + by, now.target.y + by);
  await page.keyboard.down('Alt');
  await drag(page, [lower(grown), lower(grown + 4), lower(grown + 8)]);
  await page.keyboard.up('Alt');
  await expect.poll(() => lastWords(page)).toBe('Pulled a corner of the copied piece');
  const pulled = await lastMend(page);
  expect(pulled?.target.r).toBe(now.target.r);
  expect(pulled?.source.warp?.by[2].dx).toBeCloseTo(8, -1);
  await page.getByRole('button', { name: 'Unpull' }).click();
  await expect.poll(async () => (await lastMend(page))?.source.warp).toBeUndefined();

  // The same by keys alone.
  await page.getByRole('button', { name: 'Corners' }).press('Enter');
  const upperLeft = page.getByRole('button', { name: 'upper left' });
  await upperLeft.press('Shift+ArrowLeft');
  await upperLeft.press('ArrowUp');
  await expect.poll(async () => (await lastMend(page))?.source.warp?.by[0]).toEqual({ dx: -10, dy: -1 });
  await upperLeft.press('Escape');
  await page.getByRole('button', { name: 'Unpull' }).click();
  await expect.poll(async () => (await lastMend(page))?.source.warp).toBeUndefined();

  const set = async (label: string, value: string): Promise<void> => {
    await page.getByLabel(label).fill(value);
    await page.getByLabel(label).press('Enter');
  };
  await set('Turn of this mend in °', '90');
  await expect.poll(() => lastWords(page)).toBe('Turned a source');
  await set('Scale of this mend in %', '80');
  await expect.poll(() => lastWords(page)).toBe('Scaled a source');
  await page.getByRole('button', { name: 'Mirror', exact: true }).click();
  await expect.poll(() => lastWords(page)).toBe('Mirrored a source');
  await set('Margin of this mend in px', '6');
  await set('Edge of this mend in px', '3');
  await expect
    .poll(() => lastMend(page))
    .toMatchObject({ margin: 6, edge: 3, source: { scale: 0.8, mirror: true } });
  expect((await lastMend(page))?.source.turn).toBeCloseTo(Math.PI / 2, 2);
});

test('a point of an outline is dragged, and a frame around marks chooses them', async ({
  quietPage: page,
}) => {
  await openHandles(page);
  const desk = await deskOf(page, SIZE);
  await page.keyboard.press('e');
  const before = (await mends(page)).length;
  await page.mouse.click(...desk.at(450, 540));
  await expect.poll(async () => (await mends(page)).length).toBe(before + 1);
  await page.keyboard.press('o');
  for (const [x, y] of [
    [600, 400],
    [660, 400],
    [660, 450],
  ])
    await page.mouse.click(...desk.at(x, y));
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await lastMend(page))?.target.shape).toBe('outline');
  await page.keyboard.press('Escape');
  await page.keyboard.press('o');
  await drag(page, [desk.at(660, 450), desk.at(650, 470), desk.at(640, 480)]);
  await expect.poll(() => lastWords(page)).toBe('Reshaped a mend');
  const [px, py] = (await lastMend(page))?.target.points[2] ?? [0, 0];
  expect(px).toBeCloseTo(640, -1);
  expect(py).toBeCloseTo(480, -1);

  await page.keyboard.down('Shift');
  await drag(page, [desk.at(250, 250), desk.at(500, 400), desk.at(720, 560)]);
  await page.keyboard.up('Shift');
  await expect.poll(() => page.locator('[data-entry][aria-pressed=true]').count()).toBeGreaterThanOrEqual(2);
});

test('a source keeps its offset, starts anew or stays fixed, reads what was asked for, and is fitted to edges', async ({
  quietPage: page,
}) => {
  await openHandles(page);
  const desk = await deskOf(page, SIZE);
  const choose = async (way: string): Promise<void> => {
    await page.getByRole('button', { name: /^Source (keeps|starts|stays)/ }).click();
    const choice = page.getByRole('radio', { name: way, exact: true });
    // The input itself lies unseen under the words it belongs to.
    await page.locator('label').filter({ has: choice }).click();
    await expect(choice).toBeChecked();
    await page.keyboard.press('Escape');
  };
  const count = async (): Promise<number> => (await mends(page)).length;
  const stroke = async (x: number, y: number): Promise<SavedMend | undefined> => {
    const before = await count();
    await drag(page, [desk.at(x, y), desk.at(x + 15, y), desk.at(x + 30, y + 4)]);
    await expect.poll(count).toBe(before + 1);
    return lastMend(page);
  };
  await page.keyboard.press('r');
  await page.keyboard.down('a');
  await page.mouse.click(...desk.at(700, 300));
  await page.keyboard.up('a');

  await choose('starts anew');
  for (const [x, y] of [
    [600, 320],
    [500, 340],
  ] as const) {
    const made = await stroke(x, y);
    expect(made?.source.dx).toBeCloseTo(700 - x, -1);
    expect(made?.source.dy).toBeCloseTo(300 - y, -1);
    expect(made?.laying).not.toBe('fixed');
  }
  await choose('stays fixed');
  expect(await stroke(420, 360)).toMatchObject({ laying: 'fixed' });
  await choose('the original');
  expect(await stroke(420, 420)).toMatchObject({ reads: 'original' });
  await page.keyboard.press('Escape');
  await page.keyboard.press('l');
  await expect(page.getByText(/There is no edge here to fit|edges still miss each other by/)).toBeVisible();
});

test('a pen presses harder for a wider stroke or a larger share, and a finger pans from then on', async ({
  quietPage: page,
}) => {
  await openHandles(page);
  const desk = await deskOf(page, SIZE);
  const client = await page.context().newCDPSession(page);
  const count = async (): Promise<number> => (await mends(page)).length;
  const before = await count();
  await page.keyboard.press('e');
  await pen(
    client,
    [220, 235, 250, 265, 280].map((x) => desk.at(x, 500)),
    [0.2, 0.4, 0.6, 0.8, 1],
  );
  await expect.poll(count).toBe(before + 1);
  const { pressure = [] } = (await lastMend(page))?.target ?? {};
  expect(pressure[0]).toBeLessThan(0.35);
  expect(Math.max(...pressure)).toBeGreaterThan(0.7);

  await page.getByRole('combobox', { name: 'What the pressure of a pen changes' }).click({ force: true });
  await page.getByRole('option', { name: 'share', exact: true }).click();
  await pen(
    client,
    [320, 335, 350, 365].map((x) => desk.at(x, 560)),
    [0.2, 0.3, 0.5, 0.5],
  );
  await expect.poll(count).toBe(before + 2);
  expect((await lastMend(page))?.share).toBeCloseTo(0.5, 1);

  const box = await desk.table.boundingBox();
  const [wx, wy] = desk.at(20, 400);
  const [x, y] = [wx - (box?.x ?? 0), wy - (box?.y ?? 0)];
  const colour = await colourAt(page, x, y);
  const finger = async (
    type: 'touchStart' | 'touchMove' | 'touchEnd',
    places: readonly Place[],
  ): Promise<void> => {
    await client.send('Input.dispatchTouchEvent', {
      type,
      touchPoints: places.map(([x, y], id) => ({ x, y, id })),
    });
  };
  await finger('touchStart', [desk.at(400, 400)]);
  for (const x of [430, 460, 500]) await finger('touchMove', [desk.at(x, 400)]);
  await finger('touchEnd', []);
  await expect.poll(() => colourAt(page, x, y)).not.toEqual(colour);
  expect(await count()).toBe(before + 2);
});

test('what is done while an undo is still on its way is kept', async ({ quietPage: page }) => {
  const buffer = await speckedPhotograph('nagasaki-boats', [{ x: 512, y: 90, r: 12 }], 8);
  await openForMending(page, { job: 'In a hurry', name: 'hurry.png', buffer });
  const desk = await deskOf(page, SIZE);
  await page.keyboard.press('r');
  await page.mouse.click(...desk.at(300, 300));
  await expect.poll(async () => (await mends(page)).length).toBe(1);
  const [first] = await mends(page);
  // A slow line: the answer takes its time, the hand does not.
  await page.route('**/undo', async (route) => {
    await new Promise((resolve) => setTimeout(resolve, 1500));
    await route.continue();
  });
  await page.keyboard.press('Control+z');
  await page.mouse.click(...desk.at(600, 500));
  await expect(page.getByText('saving', { exact: true })).toBeVisible();
  await expect.poll(async () => (await mends(page)).map(({ target }) => Math.round(target.x))).toEqual([600]);
  expect((await mends(page))[0]).not.toEqual(first);
});

test('an undo that comes before a stroke is laid down takes that stroke back, and not what was done before it', async ({
  quietPage: page,
}) => {
  await openHandles(page);
  const desk = await deskOf(page, SIZE);
  const before = await saved(page);
  await page.keyboard.press('e');
  await drag(page, [desk.at(420, 560), desk.at(460, 560), desk.at(500, 566)]);
  await page.keyboard.press('Control+z');
  await expect
    .poll(async () => (await saved(page)).undone.map(({ words }) => words))
    .toEqual(['Healed along a stroke']);
  expect((await saved(page)).recipe).toEqual(before.recipe);
  expect((await saved(page)).done).toEqual(before.done);
});

test('what is said of a mend stays when it is saved, moves nothing, and goes with the next thing that is done', async ({
  quietPage: page,
}) => {
  await openHandles(page);
  const mendsBefore = (await mends(page)).length;
  const desk = await deskOf(page, SIZE);
  const said = page.getByText('Part of the source lies outside the picture.');

  // A mend that hangs over the picture's own border takes all that it needs.
  await page.keyboard.press('e');
  await drag(page, [
    desk.at(SIZE.width - 60, 420),
    desk.at(SIZE.width - 30, 420),
    desk.at(SIZE.width - 1, 422),
  ]);
  await expect.poll(async () => (await mends(page)).length).toBe(mendsBefore + 1);
  await page.waitForTimeout(300);
  await expect(said).toBeHidden();
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await mends(page)).length).toBe(mendsBefore);

  await page.keyboard.press('r');
  await page.keyboard.down('a');
  await page.mouse.click(...desk.at(SIZE.width - 6, 300));
  await page.keyboard.up('a');
  const before = await desk.table.boundingBox();
  await drag(page, [desk.at(600, 300), desk.at(640, 300), desk.at(680, 304)]);
  await expect(said).toBeVisible();
  await expect.poll(async () => (await mends(page)).length).toBe(mendsBefore + 1);
  await page.waitForTimeout(500);
  await expect(said).toBeVisible();
  expect(await desk.table.boundingBox()).toEqual(before);
  // With the same offset a stroke farther to the right would take all from beyond the picture: it lays nothing down.
  await drag(page, [desk.at(780, 340), desk.at(820, 340), desk.at(860, 344)]);
  await expect(page.getByText('All of the source lies outside the picture.')).toBeVisible();
  await page.waitForTimeout(300);
  expect((await mends(page)).length).toBe(mendsBefore + 1);
  await page.keyboard.press('Control+z');
  await expect(said).toBeHidden();
});
