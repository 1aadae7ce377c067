import { sentenceOf } from '@fennip/contract';
import type { ExamineRequest, Picture } from '@fennip/contract';
import type { NumberedFault, Polarity } from '@fennip/core/fault';
import { EXAMINE_DEFAULTS, LEAST_VISIBILITY, decideFindings, leastConfidence } from '@fennip/core/examine';
import type { ExamineOptions } from '@fennip/core/examine';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import { call } from '../api/call.ts';
import { useJob } from './job.ts';
import { usePicture } from './picture.ts';

/** Which specks are listed. */
export type WantedPolarity = Polarity | 'both';

const POLARITIES: Readonly<Record<WantedPolarity, Polarity[]>> = {
  dark: ['dark'],
  bright: ['bright'],
  both: ['dark', 'bright'],
};

/** The examination of the open picture: all that was measured, and how much of it the ledger lists. */
export const useExamination = defineStore('examination', () => {
  const picture = usePicture();
  const job = useJob();
  const sensitivity = ref(EXAMINE_DEFAULTS.sensitivity);
  const polarity = ref<WantedPolarity>('both');
  const leastVisibility = ref(LEAST_VISIBILITY);
  const findings = shallowRef<readonly NumberedFault[]>([]);
  const problem = ref<string | null>(null);

  const isDone = computed(() => picture.picture?.examined === 'done');
  const isUnderWay = computed(
    () => picture.picture?.examined === 'running' || picture.picture?.examined === 'waiting',
  );
  /** The least confidence that is listed. */
  const least = computed(() => leastConfidence(sensitivity.value));
  /** What could be listed, of the polarities and the visibility that are wanted. */
  const candidates = computed(() =>
    picture.picture
      ? decideFindings(
          findings.value,
          {
            sensitivity: 1,
            polarities: POLARITIES[polarity.value],
            leastVisibility: leastVisibility.value,
          },
          picture.picture,
        )
      : [],
  );
  const sureEnough = computed(() => candidates.value.filter(({ confidence }) => confidence >= least.value));
  const listed = computed(() => sureEnough.value.length);
  /** Which share of what is listed will be wrong, as sure as the finder is of each; null where nothing is. */
  const wrongShare = computed(() =>
    listed.value > 0
      ? sureEnough.value.reduce((sum, { confidence }) => sum + 1 - confidence, 0) / listed.value
      : null,
  );

  /** What is asked for now; while something else is asked for meanwhile, the answer to this is out of date. */
  let asking: Promise<void> | null = null;
  let isOutOfDate = false;

  /** Has the picture examined, or what was measured decided about anew. The last wish stands. */
  function examine(): Promise<void> {
    isOutOfDate = true;
    asking ??= askUntilCurrent().finally(() => {
      asking = null;
    });
    return asking;
  }

  async function askUntilCurrent(): Promise<void> {
    while (isOutOfDate) {
      isOutOfDate = false;
      await ask();
    }
  }

  async function ask(): Promise<void> {
    const id = picture.picture?.id;
    if (!id) return;
    const isStillOpen = picture.rememberOpen();
    problem.value = null;
    const request: ExamineRequest = {
      sensitivity: sensitivity.value,
      polarities: POLARITIES[polarity.value],
      leastVisibility: leastVisibility.value,
    };
    try {
      const asked = await job.newestOf(() => call('examine', { picture: id }, request));
      if (isOutOfDate || !isStillOpen()) return;
      picture.picture = asked;
      // What was measured before is decided about at once.
      if (asked.examined === 'done') await picture.reload();
    } catch (error) {
      problem.value = sentenceOf(error);
    }
  }

  /** Takes over the picture as another nature made it: what was measured before is decided about at once. */
  async function takeNature(changed: Picture): Promise<void> {
    if (picture.picture?.id !== changed.id) return;
    problem.value = null;
    picture.picture = changed;
    if (changed.examined === 'done') await picture.reload();
  }

  /** Lets an examination go that is under way. */
  async function stop(): Promise<void> {
    const id = picture.picture?.id;
    if (!id) return;
    const isStillOpen = picture.rememberOpen();
    problem.value = null;
    try {
      await call('stopExamining', { picture: id });
      if (isStillOpen()) await picture.reload();
    } catch (error) {
      problem.value = sentenceOf(error);
    }
  }

  /** Has the picture examined as it is mended; what it still shows goes to the ledger. */
  async function check(): Promise<void> {
    const id = picture.picture?.id;
    if (!id) return;
    const isStillOpen = picture.rememberOpen();
    problem.value = null;
    try {
      // What is not saved yet would not be looked at.
      await picture.saved();
      const asked = await job.newestOf(() => call('check', { picture: id }));
      if (isStillOpen()) picture.picture = asked;
    } catch (error) {
      problem.value = sentenceOf(error);
    }
  }

  /** Lists by another sensitivity; what was measured stays, so that it is quick. */
  async function decide(): Promise<void> {
    if (isDone.value) await examine();
  }

  // What the ledger shows was decided by this, here, before, or in another window.
  watch(
    [() => picture.picture?.id, () => JSON.stringify(picture.picture?.lookedFor)],
    ([id], [before]) => {
      // What is wished for here is newer than any answer to an earlier wish.
      if (asking !== null && id === before) return;
      const looked: ExamineOptions = picture.picture?.lookedFor ?? EXAMINE_DEFAULTS;
      const { sensitivity: sought, polarities } = looked;
      sensitivity.value = sought;
      leastVisibility.value = looked.leastVisibility ?? LEAST_VISIBILITY;
      polarity.value = polarities.length === 1 ? polarities[0] : 'both';
    },
    { immediate: true },
  );

  watch(
    [() => picture.picture?.id, isDone],
    async ([id]) => {
      findings.value = [];
      if (id === undefined || !isDone.value) return;
      const isStillOpen = picture.rememberOpen();
      try {
        const measured = await call('findings', { picture: id });
        if (isStillOpen()) findings.value = measured;
      } catch (error) {
        problem.value = sentenceOf(error);
      }
    },
    { immediate: true },
  );

  return {
    ...{ sensitivity, polarity, leastVisibility, problem, isUnderWay, least, candidates, listed, wrongShare },
    ...{ examine, takeNature, stop, decide, check },
  };
});
