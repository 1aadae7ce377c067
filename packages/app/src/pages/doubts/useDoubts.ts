import { sentenceOf } from '@fennip/contract';
import type { ChartedDecision, OpenDoubt, ProposedMend } from '@fennip/contract';
import type { Step } from '@fennip/core/recipe';
import { computed, ref, shallowRef, watch } from 'vue';
import { call } from '../../api/call.ts';
import { AnswerError } from '../../api/http.ts';
import { useJob } from '../../stores/job.ts';
import { useRuns } from '../../stores/runs.ts';
import { say } from '../../i18n/say.ts';

/** The round over the doubts of a job: which is looked at, what its mend would be, and how it is decided. */
export function useDoubts() {
  const job = useJob();
  const runs = useRuns();
  const doubts = ref<OpenDoubt[]>([]);
  const decided = ref(new Set<string>());
  const at = ref(0);
  const proposal = shallowRef<ProposedMend | null>(null);
  const problem = ref<string | null>(null);
  const isLoaded = ref(false);
  const proposals = new Map<string, Promise<ProposedMend>>();

  const keyOf = ({ pictureId, fault }: OpenDoubt): string => `${pictureId}/${fault}`;
  const isOpen = (doubt: OpenDoubt): boolean => !decided.value.has(keyOf(doubt));
  const current = computed(() => {
    const doubt = doubts.value[at.value];
    return doubt && isOpen(doubt) ? doubt : null;
  });
  const left = computed(() => doubts.value.filter(isOpen).length);

  const proposed = (doubt: OpenDoubt): Promise<ProposedMend> => {
    const known = proposals.get(keyOf(doubt));
    if (known) return known;
    const asked = call('proposal', { picture: doubt.pictureId, fault: doubt.fault });
    proposals.set(keyOf(doubt), asked);
    return asked;
  };

  /** The next that is open in a direction, or the one there is. */
  function nextFrom(from: number, by: number): number {
    const { length } = doubts.value;
    for (let k = 1; k <= length; k++) {
      const index = (from + by * k + length * k) % length;
      if (isOpen(doubts.value[index])) return index;
    }
    return from;
  }
  function step(by: number): void {
    if (doubts.value.length > 0) at.value = nextFrom(at.value, by);
  }

  watch(current, async (doubt) => {
    proposal.value = null;
    if (!doubt) return;
    try {
      const found = await proposed(doubt);
      if (current.value === doubt) proposal.value = found;
      // The next one is worked out while this one is looked at.
      const next = doubts.value[nextFrom(at.value, 1)];
      if (next && isOpen(next)) void proposed(next).catch(() => undefined);
    } catch (error) {
      // Settled elsewhere meanwhile: there is nothing left to decide.
      if (error instanceof AnswerError && error.status === 404) settle(doubt);
      else problem.value = sentenceOf(error);
    }
  });

  function settle(doubt: OpenDoubt): void {
    decided.value = new Set([...decided.value, keyOf(doubt)]);
    step(1);
  }

  /** Edits the picture of a doubt as it stands now. */
  async function edit(doubt: OpenDoubt, words: string, stepsAt: (mends: number) => Step[]): Promise<void> {
    const { revision, recipe } = await call('picture', { picture: doubt.pictureId });
    await call(
      'edit',
      { picture: doubt.pictureId },
      {
        revision,
        edit: { words, steps: stepsAt(recipe.mends.length) },
      },
    );
  }

  /** The eye goes on at once; a refusal brings the doubt back. */
  async function decide(doubt: OpenDoubt, work: () => Promise<unknown>): Promise<void> {
    problem.value = null;
    settle(doubt);
    try {
      await work();
    } catch (error) {
      decided.value = new Set([...decided.value].filter((key) => key !== keyOf(doubt)));
      problem.value = sentenceOf(error);
    }
  }

  /** A place of a chart is decided once for all frames. */
  const decidePlace = (doubt: OpenDoubt, charted: number, to: ChartedDecision['to']): Promise<unknown> =>
    call('decideCharted', { job: job.job?.id ?? '' }, { picture: doubt.pictureId, charted, to });

  async function mend(): Promise<void> {
    const { value: found } = proposal;
    const { value: doubt } = current;
    if (!found || !doubt) return;
    const { mend: one, fault } = found;
    await decide(doubt, () =>
      doubt.charted !== null && doubt.because === 'not sure'
        ? decidePlace(doubt, doubt.charted, 'mend')
        : edit(doubt, say('doubts.mended', { n: fault.number }), (mends) => [
            { op: 'put', mend: one, at: mends },
          ]),
    );
  }
  async function dismiss(): Promise<void> {
    const { value: doubt } = current;
    if (!doubt) return;
    const { fault } = doubt;
    await decide(doubt, () =>
      doubt.charted !== null && doubt.because === 'not sure'
        ? decidePlace(doubt, doubt.charted, 'dismiss')
        : edit(doubt, say('doubts.dismissed'), () => [{ op: 'judge', fault, as: 'dismissed' }]),
    );
  }

  async function load(): Promise<void> {
    const id = job.job?.id;
    if (!id) return;
    try {
      doubts.value = await call('doubts', { job: id });
      decided.value = new Set();
      at.value = 0;
      isLoaded.value = true;
    } catch (error) {
      problem.value = sentenceOf(error);
    }
  }
  watch(
    () => job.job?.id,
    () => void load(),
  );
  // What is decided here is no doubt of the job any more.
  watch(left, () => void runs.loadLeft().catch(() => undefined));

  const size = computed(() => doubts.value.length);
  return { current, at, size, left, proposal, problem, isLoaded, load, step, mend, dismiss };
}
