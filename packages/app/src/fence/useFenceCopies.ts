import type { Fence } from '@fennip/core/fence';
import type { Picture } from '@fennip/contract';
import { computed } from 'vue';
import { call } from '../api/call.ts';
import { AnswerError } from '../api/http.ts';
import { inMendWorker } from '../engine/page/workers.ts';
import { useJob } from '../stores/job.ts';
import { usePicture } from '../stores/picture.ts';
import { useFencing } from '../actions/useFencing.ts';
import { sayCount, stepSaid } from '../i18n/say.ts';

/** Fences beyond the picture they were drawn on: on other pictures, and as files. */
export function useFenceCopies() {
  const job = useJob();
  const picture = usePicture();
  const { newFence } = useFencing();

  /** Pictures of the job a fence can be copied to as it is: those of the same sides. */
  const others = computed(() =>
    job.pictures.filter(
      ({ id, state, width, height }) =>
        id !== picture.picture?.id &&
        state === 'ready' &&
        width === picture.picture?.width &&
        height === picture.picture.height,
    ),
  );

  async function copyOne({ kind, area, edge, name }: Fence, to: Picture): Promise<void> {
    const sheet = await call('picture', { picture: to.id });
    const fence = { ...newFence(kind, area, name), edge };
    await call(
      'edit',
      { picture: to.id },
      {
        revision: sheet.revision,
        edit: {
          words: stepSaid('step.fence.copied', { name }),
          steps: [{ op: 'fence', fence, at: sheet.recipe.fences?.length ?? 0 }],
        },
      },
    );
  }

  async function copyTo(fence: Fence, pictures: readonly Picture[]): Promise<void> {
    try {
      for (const to of pictures) await copyOne(fence, to);
      picture.notice = sayCount('notice.fenceCopied', pictures.length, { name: fence.name });
    } catch (error) {
      if (!(error instanceof AnswerError)) throw error;
      picture.notice = error.message;
    }
  }

  /** Saves a fence's area as a black and white picture of the full size: white is in. */
  async function save(fence: Fence): Promise<void> {
    const file = await inMendWorker((worker) => worker.maskFile(fence.area));
    const link = document.createElement('a');
    link.href = URL.createObjectURL(file);
    link.download = `${fence.name}.png`;
    link.click();
    URL.revokeObjectURL(link.href);
  }

  return { others, copyTo, save };
}
