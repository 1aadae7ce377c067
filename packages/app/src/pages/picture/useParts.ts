import { onBeforeUnmount, onMounted, ref, shallowRef } from 'vue';
import type { Ref } from 'vue';
import { usePicture } from '../../stores/picture.ts';
import { say } from '../../i18n/say.ts';
import type * as AroundTable from './aroundTable.ts';
import { startMendWorkers } from '../../engine/page/workers.ts';
import { frameDrawn } from '../../timing/frameDrawn.ts';

/** A picture that is not seen after so long, in milliseconds, is not waited for. */
const AT_LATEST_MS = 1500;

type Around = typeof AroundTable;

/** The parts, in the order they are mounted in. */
const ORDER = ['bars', 'ledger', 'proof', 'rest'] as const;
type Part = (typeof ORDER)[number];

/** What stands around the table: mounted once the picture is seen, one part a frame. */
export interface Parts {
  /** The components it is made of; none until they have come. */
  readonly around: Readonly<Ref<Around | null>>;
  /** True if it is time for one of them. */
  isDue(part: Part): boolean;
  /** The picture is seen. */
  mountParts(): void;
}

/**
 * Lets the picture come first: bars, ledger and proof take longer to mount than the first view takes to paint. Each has a frame of its own, so that the page answers in between; the workers that mend start after them.
 */
export function useParts(): Parts {
  const around = shallowRef<Around | null>(null);
  const due = ref(0);
  let fetched: Promise<Around> | null = null;
  const fetchParts = (): Promise<Around> =>
    (fetched ??= import('./aroundTable.ts').catch((error: unknown) => {
      fetched = null;
      throw error;
    }));
  let begun: Promise<void> | null = null;

  async function mountAll(): Promise<void> {
    try {
      around.value = await fetchParts();
    } catch {
      // A picture without anything to work on it with would only puzzle.
      usePicture().problem = say('notice.noServer');
      return;
    }
    while (due.value < ORDER.length) {
      due.value++;
      await frameDrawn();
    }
    startMendWorkers();
  }

  const mountParts = (): void => void (begun ??= mountAll());

  let latest: ReturnType<typeof setTimeout>;
  onMounted(() => {
    // The page has nothing to do while the first tiles are painted.
    requestIdleCallback(() => void fetchParts().catch(() => undefined));
    latest = setTimeout(mountParts, AT_LATEST_MS);
  });
  onBeforeUnmount(() => clearTimeout(latest));
  const isDue = (part: Part): boolean => ORDER.indexOf(part) < due.value;
  return { around, isDue, mountParts };
}
