import { sentenceOf } from '@fennip/contract';
import type { Ref } from 'vue';
import { ref } from 'vue';

/** Something that is tried, and what went wrong with it. */
export interface Trying {
  /** Why the last work failed; null while nothing did. */
  readonly problem: Ref<string | null>;
  readonly isTrying: Ref<boolean>;
  /** Does something; never throws. */
  trying(work: () => Promise<unknown>): Promise<void>;
}

/** Tries what a person asked for, and keeps the sentence that says why it failed. */
export function useTrying(): Trying {
  const problem = ref<string | null>(null);
  const isTrying = ref(false);
  async function trying(work: () => Promise<unknown>): Promise<void> {
    problem.value = null;
    isTrying.value = true;
    try {
      await work();
    } catch (error) {
      problem.value = sentenceOf(error);
    } finally {
      isTrying.value = false;
    }
  }
  return { problem, isTrying, trying };
}
