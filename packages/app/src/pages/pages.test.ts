// @vitest-environment jsdom
import type { Delivery, Run, RunPiece } from '@fennip/contract';
import { flushPromises } from '@vue/test-utils';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { usePicture } from '../stores/picture.ts';
import { mountPart } from '../testing/mountPart.ts';
import { openPage } from '../testing/openPage.ts';
import { pictureSheet } from '../testing/pictureSheet.ts';
import type { StandInServer } from '../testing/standInServer.ts';
import DeliveryList from './handover/DeliveryList.vue';
import Jobs from './jobs/Jobs.vue';
import NatureChoice from './picture/NatureChoice.vue';
import StageNotice from './picture/StageNotice.vue';
import RunLine from './series/RunLine.vue';

let server: StandInServer;
beforeEach(() => {
  server = openPage();
});
afterEach(() => {
  vi.unstubAllGlobals();
  document.body.innerHTML = '';
});

describe('the page of jobs', () => {
  const job = { id: 'j1', name: 'Harbour of Brinsea', createdAt: '2026-03-01T12:00:00Z', pictures: 3 };

  it('lists the jobs that there are, each with a way into it', async () => {
    server.on('GET /jobs', () => [job, { ...job, id: 'j2', name: 'Mill', pictures: 1 }]);
    const page = mountPart(Jobs);
    expect(page.text()).toContain('Loading');
    await flushPromises();
    expect(page.findAll('li a').map((link) => link.attributes('href'))).toEqual(['/jobs/j1', '/jobs/j2']);
    expect(page.text()).toContain('3 pictures');
    expect(page.text()).toContain('1 picture');
  });

  it('says where there are none, and where nobody answers, with a way to try again', async () => {
    server.breakLine();
    server.on('GET /jobs', () => []);
    const page = mountPart(Jobs);
    await flushPromises();
    expect(page.get('[role=alert]').text()).not.toBe('');
    await page.get('[role=alert] button').trigger('click');
    await flushPromises();
    expect(page.find('[role=alert]').exists()).toBe(false);
    expect(page.findAll('li')).toEqual([]);
  });

  it('makes a job of a name that is one', async () => {
    server.on('GET /jobs', () => []);
    server.on('POST /jobs', () => job);
    const page = mountPart(Jobs);
    await flushPromises();
    await page.get('input').setValue('   ');
    await page.get('form').trigger('submit');
    expect(server.asked.filter(({ method }) => method === 'POST')).toEqual([]);
    await page.get('input').setValue('  Harbour of Brinsea ');
    await page.get('form').trigger('submit');
    await flushPromises();
    expect(server.asked.at(-1)).toMatchObject({ method: 'POST', body: { name: 'Harbour of Brinsea' } });
  });

  it('keeps the name where it was refused, and says why', async () => {
    server.on('GET /jobs', () => []);
    const page = mountPart(Jobs);
    await flushPromises();
    server.refuse(507, 'The disk is full.');
    await page.get('input').setValue('Mill');
    await page.get('form').trigger('submit');
    await flushPromises();
    expect(page.get('[role=alert]').text()).toContain('The disk is full.');
    expect((page.get('input').element as HTMLInputElement).value).toBe('Mill');
  });
});

describe('what the restorer should know', () => {
  it('is there until it is read', async () => {
    const notice = mountPart(StageNotice);
    expect(notice.find('[role=status]').exists()).toBe(false);
    usePicture().notice = 'The source lies outside the picture.';
    await notice.vm.$nextTick();
    expect(notice.get('[role=status]').text()).toContain('The source lies outside the picture.');
    await notice.get('button').trigger('click');
    expect(usePicture().notice).toBeNull();
    expect(notice.find('[role=status]').exists()).toBe(false);
  });
});

describe('a run', () => {
  const run: Run = {
    ...{ id: 'r', jobId: 'j', kind: 'series', state: 'running', createdAt: '2026-03-01T12:00:00Z' },
    request: { kind: 'series', pictures: ['p'], sensitivity: 0.7, examine: true, chart: false, mend: null },
    ...{ pieces: 4, done: 1, skipped: 0, failed: 0, mended: 0, doubts: 0 },
    ...{ work: 'mend', perMinute: 2.5, secondsLeft: 72 },
  };

  it('says how far it is and how fast, and can be paused or stopped', async () => {
    const line = mountPart(RunLine, { run });
    expect(line.text()).toContain('1 of 4');
    expect(line.text()).toContain('2.5');
    const acts = line.findAll('button').filter((button) => /Pause|Stop/.test(button.text()));
    for (const act of acts) await act.trigger('click');
    expect(line.emitted('steer')?.flat()).toEqual(['pause', 'stop']);
  });

  it('that is paused can be resumed, and has no pace', async () => {
    const line = mountPart(RunLine, { run: { ...run, state: 'paused' } });
    expect(line.text()).not.toContain('2.5');
    await line
      .findAll('button')
      .find((button) => button.text() === 'Resume')
      ?.trigger('click');
    expect(line.emitted('steer')?.flat()).toEqual(['resume']);
  });

  it('that has ended says what it did, and what it could not do', () => {
    const done = { ...run, state: 'done', done: 2, skipped: 1, failed: 1, mended: 12, doubts: 3 };
    const text = mountPart(RunLine, { run: done }).text();
    for (const part of ['12 mends', '3 ', '1 ']) expect(text).toContain(part);
    expect(text).not.toContain('Pause');
  });

  it('shows its pieces when it is opened, each with what came of it', async () => {
    const piece = (number: number, more: Partial<RunPiece>): RunPiece => ({
      ...{ number, work: 'mend', pictureId: null, state: 'done', outcome: {} },
      ...more,
    });
    server.on('GET /runs/r/pieces', () => [
      piece(1, { outcome: { mended: 12 } }),
      piece(2, { state: 'waiting' }),
      piece(3, { state: 'failed', outcome: { reason: 'The file is gone.' } }),
    ]);
    const line = mountPart(RunLine, { run });
    const details = line.get('details').element as HTMLDetailsElement;
    details.open = true;
    await line.get('details').trigger('toggle');
    await flushPromises();
    expect(line.text()).toContain('12 mends');
    expect(line.text()).toContain('The file is gone.');
  });
});

describe('what has been handed over', () => {
  const delivery: Delivery = {
    ...{ id: 'd', pictureId: 'p', state: 'done', problem: null, fileName: 'harbour restored.jpg' },
    ...{ sizeBytes: 2_400_000, mends: 12, createdAt: '2026-03-01T12:00:00Z' },
    ...{ format: 'jpeg', quality: 92, depth: 8, size: { kind: 'full' } },
  } as Delivery;

  it('leads to its file and its recipe once it is done', () => {
    const list = mountPart(DeliveryList, { deliveries: [delivery] });
    expect(list.findAll('a').map((link) => link.attributes('href'))).toEqual([
      '/api/deliveries/d/file',
      '/api/deliveries/d/recipe',
    ]);
    expect(list.text()).toContain('12 mends');
    expect(list.text()).toContain('92');
  });

  it('says why it failed, and leads nowhere then', () => {
    const failed = { ...delivery, state: 'failed', problem: 'The disk is full.' };
    const list = mountPart(DeliveryList, { deliveries: [failed] });
    expect(list.get('[role=alert]').text()).toBe('The disk is full.');
    expect(list.findAll('a')).toEqual([]);
  });

  it('is nothing where nothing was', () => {
    expect(mountPart(DeliveryList, { deliveries: [] }).findAll('li')).toEqual([]);
  });
});

describe('the nature of a picture', () => {
  const { picture } = pictureSheet();
  const choose = async (nature: string) => {
    const choice = mountPart(NatureChoice, { picture });
    choice.findComponent({ name: 'ElSelect' }).vm.$emit('change', nature);
    await flushPromises();
    return choice;
  };

  it('is sent when it is another one, and the changed picture is handed on', async () => {
    server.on('PATCH /pictures/p', ({ body }) => ({ ...picture, ...(body as object) }));
    const choice = await choose('print');
    expect(server.asked).toMatchObject([{ method: 'PATCH', body: { nature: 'print' } }]);
    expect(choice.emitted('changed')?.flat()).toMatchObject([{ nature: 'print' }]);
  });

  it('is not sent when it is the same', async () => {
    await choose('frame');
    expect(server.asked).toEqual([]);
  });

  it('that is refused is said', async () => {
    server.refuse(409, 'The picture is still being prepared.');
    const choice = await choose('print');
    expect(choice.emitted('failed')?.flat()).toEqual(['The picture is still being prepared.']);
    expect(choice.emitted('changed')).toBeUndefined();
  });
});
