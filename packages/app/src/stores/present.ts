import type { Present } from '@fennip/contract';
import { PRESENT_EVERY_MS, newId } from '@fennip/contract';
import { defineStore } from 'pinia';
import { computed, shallowRef } from 'vue';
import { call, callOutliving } from '../api/call.ts';
import { useJob } from './job.ts';
import { usePicture } from './picture.ts';
import { useSession } from './session.ts';

/** Who else has pictures of the job open, where people sign in. */
export const usePresent = defineStore('present', () => {
  const job = useJob();
  const picture = usePicture();
  const session = useSession();
  const window = newId('window');
  const all = shallowRef<readonly Present[]>([]);
  /** The names of the others at the picture that is open, each once. */
  const here = computed(() => [
    ...new Set(
      all.value
        .filter((one) => one.window !== window && one.picture === picture.picture?.id)
        .map(({ name }) => name),
    ),
  ]);

  /** Says which picture this window shows. Where that cannot be said, nobody is the worse for it. */
  async function say(jobId: string, shown: string | null): Promise<void> {
    if (!session.person) return;
    all.value = await call('present', { job: jobId }, { window, picture: shown }).catch(() => []);
  }

  /** Says it again and again, until the window shows something else. @returns a function that ends it */
  function keepSaying(jobId: string, shown: string): () => void {
    void say(jobId, shown);
    const timer = setInterval(() => void say(jobId, shown), PRESENT_EVERY_MS);
    const leave = (): void => {
      if (session.person)
        callOutliving('present', { job: jobId }, { window, picture: null }).catch(() => undefined);
    };
    addEventListener('pagehide', leave);
    return () => {
      clearInterval(timer);
      removeEventListener('pagehide', leave);
      leave();
      all.value = [];
    };
  }

  job.listen((event) => {
    if (event.type === 'present') all.value = event.present;
  });
  return { here, keepSaying };
});
