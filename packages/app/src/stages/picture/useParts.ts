import { onBeforeUnmount, onMounted, ref, shallowRef } from 'vue';
import type { Ref } from 'vue';
import type * as AroundTable from './aroundTable.ts';
import { startHands } from '../../engine/engine.ts';

/** A picture that is not seen after so long, in milliseconds, is not waited for. */
const AT_LATEST_MS = 1500;

type Around = typeof AroundTable;

/** What stands around the table: mounted once the picture is seen, one part a frame. */
export interface Parts {
  readonly around: Readonly<Ref<Around | null>>;
  /** How many of them are mounted. */
  readonly parts: Readonly<Ref<number>>;
  /** The picture is seen. */
  mountParts(): void;
}

/**
 * Lets the picture come first: bars, ledger and proof take longer to mount than the first view takes to paint. Each has a frame of its own, so that the page answers in between; the workers that mend start after them.
 *
 * @param count of all parts
 */
export function useParts(count: number): Parts {
  const around = shallowRef<Around | null>(null);
  const parts = ref(0);
  let fetched: Promise<Around> | null = null;
  const fetchParts = (): Promise<Around> => (fetched ??= import('./aroundTable.ts'));
  let begun: Promise<void> | null = null;

  async function mountAll(): Promise<void> {
    around.value = await fetchParts();
    while (parts.value < count) {
      parts.value++;
      // After the frame, not before: what was mounted is painted.
      await new Promise((resolve) => requestAnimationFrame(() => setTimeout(resolve)));
    }
    startHands();
  }

  const mountParts = (): void => void (begun ??= mountAll());

  let latest: ReturnType<typeof setTimeout>;
  onMounted(() => {
    // The page has nothing to do while the first tiles are painted.
    requestIdleCallback(() => void fetchParts());
    latest = setTimeout(mountParts, AT_LATEST_MS);
  });
  onBeforeUnmount(() => clearTimeout(latest));
  return { around, parts, mountParts };
}
