import { said } from '@fennip/words';
import type { CropStep, FinishName, FinishStep, Histogram } from '@fennip/core/finish';
import { autoBalance, autoLevels, isFramingStep, wholePlane } from '@fennip/core/finish';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import { engine } from '../engine/page/workers.ts';
import { followLatest } from '../sync/followLatest.ts';
import { neutralStep } from './neutralStep.ts';
import { say, stepSaid } from '../i18n/say.ts';
import { usePicture } from './picture.ts';

/** What a press on the picture is for while a step is set by pointing. */
export type PointedAt = 'black' | 'grey' | 'white' | 'tone' | 'horizon' | 'straight';

/** What is done to the picture after all mends: its steps in their order, and the one that is looked at. */
export const useFinish = defineStore('finish', () => {
  const picture = usePicture();
  const drafted = shallowRef<FinishStep | null>(null);
  const chosenId = ref<string | null>(null);
  const histograms = shallowRef<Record<'before' | 'after', Histogram> | null>(null);
  const pointedAt = ref<PointedAt | null>(null);
  /** Which colour channel of levels is set; none sets them alike. */
  const channel = ref<number | null>(null);
  /** True if the page of the finish is what is looked at. */
  const isOpen = ref(false);

  const steps = computed((): readonly FinishStep[] =>
    picture.finish.map((step) => (drafted.value?.id === step.id ? drafted.value : step)),
  );
  const chosen = computed(() => steps.value.find(({ id }) => id === chosenId.value) ?? null);
  const sides = computed(() => ({
    width: picture.picture?.width ?? 1,
    height: picture.picture?.height ?? 1,
  }));
  /** While a step of the framing is set, all that it could show is shown, and the frame lies over it. */
  const isFramingOpen = computed(() => isOpen.value && chosen.value !== null && isFramingStep(chosen.value));
  const plane = computed(() => wholePlane(sides.value, steps.value));
  /** How the picture is framed as it is seen now. */
  const framing = computed((): readonly FinishStep[] => {
    const framings = steps.value.filter(isFramingStep);
    if (!isFramingOpen.value) return framings;
    const all: CropStep = { id: 'all', on: true, share: 1, method: 'crop', ...plane.value };
    return [...framings.filter(({ method }) => method !== 'crop'), all];
  });

  const showDraft = followLatest(
    () => drafted.value,
    async (step) => {
      // What is kept or taken away meanwhile is shown as part of the recipe.
      if (step) await engine().draftFinish(steps.value);
    },
  );
  /** Shows a step as it is being changed; while one is worked out only the last of those that follow is kept. */
  function draft(step: FinishStep): Promise<void> {
    drafted.value = step;
    return showDraft();
  }

  /** Puts a step in the place of the one with its id, or at the end; what is looked at stays. */
  function keep(step: FinishStep, words: string): void {
    const stood = picture.finish.findIndex(({ id }) => id === step.id);
    drafted.value = null;
    picture.perform({
      words,
      steps: [{ op: 'finish', step, at: stood < 0 ? picture.finish.length : stood }],
    });
  }

  /** Puts a step in its place and looks at it. */
  function put(step: FinishStep, words: string): void {
    keep(step, words);
    chosenId.value = step.id;
  }

  const change = (step: FinishStep): void =>
    put(step, stepSaid('step.finishChanged', { name: said(`finish.${step.method}`) }));

  /** Adds a step; of what frames there is one of each kind, which is chosen instead. */
  function add(method: FinishName): void {
    const step = neutralStep(method, sides.value, steps.value);
    const stands = isFramingStep(step) && steps.value.find((one) => one.method === method);
    if (stands) chosenId.value = stands.id;
    else put(step, stepSaid('step.finishAdded', { name: said(`finish.${method}`) }));
    if (method === 'sharpen' && step.method === 'sharpen') void measure(step);
  }

  /** Sets a sharpening by what is measured: the picture's own blur, and a threshold above its grain. */
  async function measure(step: Extract<FinishStep, { method: 'sharpen' }>): Promise<void> {
    const { blur, noise } = await engine().sharpness();
    // It may have been taken away while it was measured.
    const stands = picture.finish.find(({ id }) => id === step.id);
    if (stands?.method !== 'sharpen') return;
    const toThousandths = (value: number): number => Math.round(1000 * value) / 1000;
    const measured = {
      ...stands,
      // Two deviations of the grain: a sharpening that is less than that is hardly anything else.
      threshold: toThousandths(Math.min(0.1, 2 * noise)),
      ...(blur === null ? {} : { radius: toThousandths(Math.max(0.3, blur)) }),
    };
    keep(measured, stepSaid('step.finishChanged', { name: say('finish.sharpen') }));
    if (blur === null) picture.notice = say('notice.noEdges');
  }

  function remove(step: FinishStep): void {
    drafted.value = null;
    picture.perform({
      words: stepSaid('step.finishRemoved', { name: said(`finish.${step.method}`) }),
      steps: [{ op: 'unfinish', id: step.id }],
    });
  }

  /** Moves a step before or after its neighbour; what frames is not among them. */
  function move(step: FinishStep, by: 1 | -1): void {
    const values = picture.finish.filter((one) => !isFramingStep(one));
    const neighbour = values[values.findIndex(({ id }) => id === step.id) + by];
    if (!neighbour) return;
    picture.perform({
      words: stepSaid('step.finishMoved', { name: said(`finish.${step.method}`) }),
      steps: [
        { op: 'unfinish', id: step.id },
        { op: 'finish', step, at: picture.finish.findIndex(({ id }) => id === neighbour.id) },
      ],
    });
  }

  /** Takes all steps away. */
  function reset(): void {
    if (picture.finish.length === 0) return;
    drafted.value = null;
    picture.perform({
      words: stepSaid('step.finishReset'),
      steps: picture.finish.map(({ id }) => ({ op: 'unfinish', id })),
    });
  }

  async function count(): Promise<void> {
    histograms.value = await engine().histograms();
  }

  /** Levels over the whole range of what is seen, as numbers that can be changed. */
  async function stretch(): Promise<void> {
    const { after } = await engine().histograms();
    const step = neutralStep('levels', sides.value, []);
    if (step.method === 'levels') put({ ...step, ...autoLevels(after) }, stepSaid('step.finishStretched'));
  }

  /** A white balance by what the picture holds, as numbers that can be changed. */
  async function balance(): Promise<void> {
    const { after } = await engine().histograms();
    const found = autoBalance(after, picture.transfer);
    if (!found) {
      picture.notice = say('notice.noColour');
      return;
    }
    const { rule, ...numbers } = found;
    const step = neutralStep('colour', sides.value, []);
    if (step.method !== 'colour') return;
    put({ ...step, ...numbers }, stepSaid('step.finishBalanced'));
    picture.notice = say(`notice.balanced.${rule === 'white patch' ? 'white' : 'grey'}`);
  }

  return {
    ...{
      channel,
      steps,
      chosen,
      chosenId,
      framing,
      histograms,
      isFramingOpen,
      isOpen,
      plane,
      pointedAt,
      sides,
    },
    ...{ add, balance, change, count, draft, measure, move, remove, reset, stretch },
  };
});
