import type { HandTreatment, RebuildMend, RecoverMend, Treatment } from '@fennip/core/mend';
import { HAND_TREATMENTS, TREATMENT_DESCRIPTIONS, isStain, isTreatment } from '@fennip/core/mend';
import { useLocalStorage } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, shallowRef, watch } from 'vue';
import { startingValues } from '../describe/editedFields.ts';
import { useHand } from './hand.ts';
import { useView } from './view.ts';

/** The values of each treatment's fields that are set by hand, as they were set last. */
export type TreatmentSettings = Readonly<Record<HandTreatment, Readonly<Record<string, unknown>>>>;

/** A mend that is painted in and out. */
export type PaintedMend = Treatment | RecoverMend | RebuildMend;

/** What each begins with. */
const USUAL = Object.fromEntries(
  HAND_TREATMENTS.map((name) => [name, startingValues(TREATMENT_DESCRIPTIONS[name].fields)]),
) as TreatmentSettings;

/** The treatments: what the next one is like, and the one that is painted on. */
export const useTreatments = defineStore('treatments', () => {
  const hand = useHand();
  const view = useView();
  const settings = useLocalStorage<TreatmentSettings>('fennip treatments', USUAL, { mergeDefaults: true });

  /** Another proposal of a rebuild: the next stroke paints a part of it over the one that is there. */
  const over = shallowRef<Omit<RebuildMend, 'id'> | null>(null);
  // It is for the rebuild that was in focus when it was asked for, while the hand stays with it.
  watch(
    () => `${hand.tool} ${view.focusEntry?.mend?.id}`,
    () => {
      over.value = null;
    },
    { flush: 'sync' },
  );

  function paintOver(mend: RebuildMend, seed: number): void {
    if (hand.tool !== 'rebuild') hand.arm('rebuild');
    const { id, fault, why, paint, ...rest } = mend;
    void [id, fault, why, paint];
    over.value = { ...rest, seed };
  }

  /** The treatment in focus, if it is of the kind in hand: strokes go on painting it. */
  const current = computed((): PaintedMend | null => {
    const mend = view.focusEntry?.mend;
    if (!mend || mend.locked) return null;
    if (hand.tool === 'rebuild') return mend.method === 'rebuild' && mend.paint ? mend : null;
    if (hand.tool === 'stain') return isStain(mend) ? mend : null;
    return isTreatment(mend) && mend.method === hand.tool ? mend : null;
  });

  function remember(name: HandTreatment, treatment: Treatment): void {
    const kept = Object.fromEntries(
      Object.keys(USUAL[name]).map((key) => [key, treatment[key as keyof Treatment]]),
    );
    settings.value = { ...settings.value, [name]: kept };
  }

  /** The colour that is drawn in next: encoded, 0 to 1, one value for each channel or one for all. */
  const drawColour = computed((): readonly number[] => {
    const { colour } = settings.value.draw;
    return Array.isArray(colour) ? colour.filter((value): value is number => typeof value === 'number') : [];
  });

  /** Takes a colour for what is drawn next; what is drawn in another one is a drawing of its own. */
  function drawIn(colour: readonly number[]): void {
    settings.value = { ...settings.value, draw: { ...settings.value.draw, colour } };
    if (current.value?.method === 'draw') view.choose([]);
  }

  return { settings, current, over, drawColour, drawIn, paintOver, remember };
});
