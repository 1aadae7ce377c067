import type { Page } from '@playwright/test';

/**
 * Renders a picture's recipe in a second instance of the page's own worker and gives its full-size samples, one
 * buffer for each plane. The worker is the built file that the page runs; it is spoken to as Comlink does.
 *
 * @param framed sides of the finished picture, where it is cropped or straightened
 */
export async function workerSamples(
  page: Page,
  pictureId: string,
  framed: { readonly width: number; readonly height: number } | null = null,
): Promise<Buffer[]> {
  const planes = await page.evaluate(
    async ([id, sides]) => {
      const sheet = (await (await fetch(`/api/pictures/${id}`)).json()) as {
        picture: {
          pyramid: string;
          width: number;
          height: number;
          depth: number;
          channels: number;
          transfer?: unknown;
        };
        recipe: { mends: unknown[] };
      };
      const script = performance
        .getEntriesByType('resource')
        .find(({ name }) => /assets\/tableWorker-.*\.js/.test(name));
      if (!script) throw new Error('the page runs no worker');
      const worker = new Worker(script.name, { type: 'module' });
      let next = 0;
      const call = (method: string, args: unknown[], transfer: Transferable[] = []): Promise<unknown> =>
        new Promise((resolve, reject) => {
          const key = `call ${next++}`;
          const hear = ({ data }: MessageEvent): void => {
            if (data.id !== key) return;
            worker.removeEventListener('message', hear);
            if (data.type === 'HANDLER') reject(new Error(JSON.stringify(data.value)));
            else resolve(data.value);
          };
          worker.addEventListener('message', hear);
          worker.postMessage({ id: key, type: 'APPLY', path: [method], argumentList: args }, transfer);
        });
      const raw = (value: unknown): unknown => ({ type: 'RAW', value });
      const { pyramid, width, height, depth, channels, transfer } = sheet.picture;
      await call('open', [
        raw({ pyramid, width, height, depth, channels, ...(transfer ? { transfer } : {}) }),
      ]);
      const told = new MessageChannel();
      await call(
        'update',
        [raw(sheet.recipe), { type: 'HANDLER', name: 'proxy', value: told.port2 }],
        [told.port2],
      );
      const rect = { left: 0, top: 0, width: sides?.width ?? width, height: sides?.height ?? height };
      const samples = (await call('samples', [raw(rect)])) as (Uint8Array | Uint16Array)[];
      worker.terminate();
      return samples.map(({ buffer }) => {
        const bytes = new Uint8Array(buffer);
        let text = '';
        for (let i = 0; i < bytes.length; i += 32768)
          text += String.fromCharCode(...bytes.subarray(i, i + 32768));
        return btoa(text);
      });
    },
    [pictureId, framed] as const,
  );
  return planes.map((plane) => Buffer.from(plane, 'base64'));
}
