import type { FinishName, FinishStep, Histogram } from '@fennip/core';
import { autoBalance, autoLevels } from '@fennip/core';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import { engine } from '../engine/engine.ts';
import { say } from '../words/say.ts';
import { usePicture } from './picture.ts';

const newId = (): string => `s${crypto.randomUUID().replaceAll('-', '').slice(0, 20)}`;

/** A step that changes nothing yet. */
function neutral(method: FinishName): FinishStep {
  const base = { id: newId(), on: true, share: 1 };
  switch (method) {
    case 'levels':
      return { ...base, method, tones: [{ black: 0, white: 1, gamma: 1 }] };
    case 'curve':
      return {
        ...{ ...base, method },
        points: [
          [0, 0],
          [1, 1],
        ],
      };
    case 'colour':
      return { ...base, method, temperature: 0, tint: 0, saturation: 1 };
  }
}

/** What is done to the picture after all mends: its steps in their order, and the one that is looked at. */
export const useFinish = defineStore('finish', () => {
  const picture = usePicture();
  const drafted = shallowRef<FinishStep | null>(null);
  const chosenId = ref<string | null>(null);
  const histograms = shallowRef<Record<'before' | 'after', Histogram> | null>(null);

  const steps = computed((): readonly FinishStep[] =>
    picture.finish.map((step) => (drafted.value?.id === step.id ? drafted.value : step)),
  );
  const chosen = computed(() => steps.value.find(({ id }) => id === chosenId.value) ?? null);

  let isShowing = false;
  /** Shows a step as it is being changed; while one is worked out only the last of those that follow is kept. */
  async function draft(step: FinishStep): Promise<void> {
    drafted.value = step;
    if (isShowing) return;
    isShowing = true;
    try {
      let shown: FinishStep | null = null;
      while (drafted.value && shown !== drafted.value) {
        shown = drafted.value;
        await engine().draftFinish(steps.value);
      }
    } finally {
      isShowing = false;
    }
  }

  /** Puts a step in the place of the one with its id, or at the end. */
  function put(step: FinishStep, words: string): void {
    const stood = picture.finish.findIndex(({ id }) => id === step.id);
    drafted.value = null;
    picture.perform({
      words,
      steps: [{ op: 'finish', step, at: stood < 0 ? picture.finish.length : stood }],
    });
    chosenId.value = step.id;
  }

  const change = (step: FinishStep): void =>
    put(step, say('step.finishChanged', { name: say(`finish.${step.method}`) }));

  const add = (method: FinishName): void =>
    put(neutral(method), say('step.finishAdded', { name: say(`finish.${method}`) }));

  function remove(step: FinishStep): void {
    drafted.value = null;
    picture.perform({
      words: say('step.finishRemoved', { name: say(`finish.${step.method}`) }),
      steps: [{ op: 'unfinish', id: step.id }],
    });
  }

  /** Moves a step before or after its neighbour. */
  function move(step: FinishStep, by: 1 | -1): void {
    const at = picture.finish.findIndex(({ id }) => id === step.id) + by;
    if (at < 0 || at >= picture.finish.length) return;
    picture.perform({
      words: say('step.finishMoved', { name: say(`finish.${step.method}`) }),
      steps: [
        { op: 'unfinish', id: step.id },
        { op: 'finish', step, at },
      ],
    });
  }

  /** Takes all steps away. */
  function reset(): void {
    if (picture.finish.length === 0) return;
    drafted.value = null;
    picture.perform({
      words: say('step.finishReset'),
      steps: picture.finish.map(({ id }) => ({ op: 'unfinish', id })),
    });
  }

  async function count(): Promise<void> {
    histograms.value = await engine().histograms();
  }

  /** Levels over the whole range of what is seen, as numbers that can be changed. */
  async function stretch(): Promise<void> {
    const { after } = await engine().histograms();
    const step = neutral('levels');
    if (step.method === 'levels') put({ ...step, ...autoLevels(after) }, say('step.finishStretched'));
  }

  /** A white balance by what the picture holds, as numbers that can be changed. */
  async function balance(): Promise<void> {
    const { after } = await engine().histograms();
    const found = autoBalance(after, picture.picture?.transfer);
    if (!found) {
      picture.notice = say('notice.noColour');
      return;
    }
    const { rule, ...numbers } = found;
    const step = neutral('colour');
    if (step.method !== 'colour') return;
    put({ ...step, ...numbers }, say('step.finishBalanced'));
    picture.notice = say(`notice.balanced.${rule === 'white patch' ? 'white' : 'grey'}`);
  }

  return {
    ...{ steps, chosen, chosenId, histograms },
    ...{ add, balance, change, count, draft, move, remove, reset, stretch },
  };
});
