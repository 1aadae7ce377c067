import type { RebuildMend, RecoverMend, Treatment, HandTreatment } from '@fennip/core/mend';
import { isStain, isTreatment } from '@fennip/core/mend';
import { useLocalStorage } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, shallowRef, watch } from 'vue';
import { useHand } from './hand.ts';
import { useView } from './view.ts';

/** What of each treatment is set by hand, as it was set last. */
export interface TreatmentSettings {
  readonly sift: Pick<Extract<Treatment, { method: 'sift' }>, 'radius' | 'threshold' | 'polarity' | 'detail'>;
  readonly regrain: { readonly strength: number };
  readonly tone: Omit<Extract<Treatment, { method: 'tone' }>, keyof TreatmentBase>;
  readonly soften: { readonly sigma: number; readonly along: number | null };
  readonly match: Record<string, never>;
  readonly shift: { readonly dx: number; readonly dy: number; readonly keeps: 'lighter' | 'darker' };
  readonly draw: Pick<Extract<Treatment, { method: 'draw' }>, 'colour' | 'fade' | 'strength'>;
}
type TreatmentBase = Pick<
  Treatment,
  | 'id'
  | 'target'
  | 'margin'
  | 'edge'
  | 'share'
  | 'on'
  | 'only'
  | 'zone'
  | 'fault'
  | 'why'
  | 'paint'
  | 'locked'
  | 'name'
  | 'method'
>;

/** A mend that is painted in and out. */
export type PaintedMend = Treatment | RecoverMend | RebuildMend;

/** Radius 10 and about 4 of 255 for open water is common practice; the level is told in multiples of the noise. */
const USUAL: TreatmentSettings = {
  sift: { radius: 10, threshold: 4, polarity: 'bright', detail: 60 },
  regrain: { strength: 1 },
  tone: { exposure: 0.15, range: 'all', contrast: 0, contrastSize: 20, hue: 0, saturation: 1, lightness: 0 },
  soften: { sigma: 3, along: null },
  match: {},
  shift: { dx: 8, dy: 0, keeps: 'darker' },
  draw: { colour: [0.3, 0.3, 0.3], fade: 0, strength: 1 },
};

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

  /** Takes a colour for what is drawn next; what is drawn in another one is a drawing of its own. */
  function drawIn(colour: readonly number[]): void {
    settings.value = { ...settings.value, draw: { ...settings.value.draw, colour } };
    if (current.value?.method === 'draw') view.choose([]);
  }

  return { settings, current, over, drawIn, paintOver, remember };
});
