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

  /** What was said last: one after the other, or a window that goes from picture to picture is heard to have left the second. */
  let saying: Promise<void> = Promise.resolve();

  /** Says which picture this window shows. Where that cannot be said, nobody is the worse for it. */
  function say(jobId: string, shown: string | null): void {
    saying = saying.then(async () => {
      if (!session.person) return;
      all.value = await call('present', { job: jobId }, { window, picture: shown }).catch(() => []);
    });
  }

  /** Says it again and again, until the window shows something else. @returns a function that ends it */
  function keepSaying(jobId: string, shown: string): () => void {
    say(jobId, shown);
    const timer = setInterval(() => say(jobId, shown), PRESENT_EVERY_MS);
    // The page itself goes: nothing waits for anything any more.
    const vanish = (): void => {
      if (session.person)
        callOutliving('present', { job: jobId }, { window, picture: null }).catch(() => undefined);
    };
    addEventListener('pagehide', vanish);
    return () => {
      clearInterval(timer);
      removeEventListener('pagehide', vanish);
      say(jobId, null);
    };
  }

  job.listen((event) => {
    if (event.type === 'present') all.value = event.present;
  });
  return { here, keepSaying };
});
