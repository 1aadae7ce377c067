import type { WornArea } from '@fennip/core/check';
import type { Tone } from '@fennip/core/finish';
import type { GrainModel } from '@fennip/core/grain';
import type { Lamp, LampKind } from '@fennip/core/lamp';
import { PLAIN_TONE } from '@fennip/core/finish';
import { LAMP_KINDS } from '@fennip/core/lamp';
import { useLocalStorage, watchDebounced } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, shallowRef, watch } from 'vue';
import { inMendWorker, engine } from '../engine/page/workers.ts';
import { AFTER_PIXELS_MS } from '../timing/afterPixels.ts';
import { usePicture } from './picture.ts';

/** All that can be set about the lamps of one picture. */
export interface LampSettings {
  readonly kind: LampKind;
  readonly contrast: number;
  readonly relief: number;
  /** Radians from the right, clockwise. */
  readonly direction: number;
  /** Pixels of the picture. */
  readonly scale: number;
  /** Encoded luma, 0 to 1. */
  readonly least: number;
  /** The tone the picture may be finished in. */
  readonly tone: Tone;
}

/** Light from the upper left: what the eye takes for granted. */
const UPPER_LEFT = (-3 * Math.PI) / 4;

const USUAL: LampSettings = {
  kind: 'plain',
  contrast: 1.2,
  relief: 1.5,
  direction: UPPER_LEFT,
  scale: 12,
  least: 0.02,
  tone: PLAIN_TONE,
};

/** Settings that serve one kind of ground. */
export const LAMP_PRESETS = {
  sky: { kind: 'departure', scale: 16, least: 0.008 },
  water: { kind: 'departure', scale: 8, least: 0.02 },
  print: { kind: 'contrast', contrast: 1.6 },
} as const satisfies Record<string, Partial<LampSettings>>;
export type LampPreset = keyof typeof LAMP_PRESETS;

/** What a lamp shows that is measured on the picture first. */
interface Measured {
  readonly grain: GrainModel | null;
  readonly worn: readonly WornArea[];
}

function lampOf(settings: LampSettings, { grain, worn }: Measured): Lamp {
  switch (settings.kind) {
    case 'plain':
    case 'negative':
    case 'clipping':
      return { kind: settings.kind };
    case 'contrast':
      return { kind: 'contrast', strength: settings.contrast };
    case 'raking':
      return { kind: 'raking', direction: settings.direction, strength: settings.relief };
    case 'departure':
      return { kind: 'departure', scale: settings.scale, least: settings.least };
    case 'grain':
      return grain
        ? { kind: 'grain', grain: { kernel: [...grain.kernel], noise: [...grain.noise] } }
        : { kind: 'plain' };
    case 'wear':
      return { kind: 'wear', worn };
    case 'finish':
      return { kind: 'finish', tone: { ...settings.tone } };
  }
}

/** The lamp that the picture is looked at under, remembered for each picture. */
export const useLamp = defineStore('lamp', () => {
  const picture = usePicture();
  const kept = useLocalStorage<Record<string, LampSettings>>('fennip lamps', {});
  const settings = computed((): LampSettings => {
    const id = picture.picture?.id;
    return { ...USUAL, ...(id === undefined ? {} : kept.value[id]) };
  });
  /** Measured when it is first asked for. */
  const grain = shallowRef<GrainModel | null>(null);
  /** What mends show again and again: measured anew after each of them. */
  const worn = shallowRef<readonly WornArea[]>([]);
  const lamp = computed(() => lampOf(settings.value, { grain: grain.value, worn: worn.value }));

  function set(changed: Partial<LampSettings>): void {
    const id = picture.picture?.id;
    if (id !== undefined) kept.value = { ...kept.value, [id]: { ...settings.value, ...changed } };
  }

  /** Goes on to the next lamp. */
  function turn(): void {
    const next = (LAMP_KINDS.indexOf(settings.value.kind) + 1) % LAMP_KINDS.length;
    set({ kind: LAMP_KINDS[next] });
  }

  const usePreset = (name: LampPreset): void => set(LAMP_PRESETS[name]);

  watch(
    () => [picture.opening, settings.value.kind === 'grain'] as const,
    async ([opening, isWanted], before) => {
      if (opening !== before?.[0]) grain.value = null;
      // Before a picture lies on the table there is none to be measured.
      if (!isWanted || grain.value || opening === 0 || picture.picture?.state !== 'ready') return;
      const measured = await inMendWorker((hand) => hand.grain());
      if (picture.opening === opening) grain.value = measured;
    },
    { immediate: true },
  );
  watchDebounced(
    () => [picture.opening, settings.value.kind === 'wear', picture.mends] as const,
    async ([opening, isWanted, mends], before) => {
      if (opening !== before?.[0]) worn.value = [];
      if (!isWanted || opening === 0 || picture.picture?.state !== 'ready') return;
      const { areas } = await engine().wear();
      if (picture.opening === opening && picture.mends === mends) worn.value = areas;
    },
    { debounce: AFTER_PIXELS_MS, immediate: true },
  );
  // Before anything is painted of a picture that is opened; without one there is nobody to paint.
  watch(
    [() => picture.opening, () => JSON.stringify(lamp.value)],
    ([opening]) => {
      if (opening > 0) void engine().light(lamp.value);
    },
    { immediate: true, flush: 'sync' },
  );

  return { settings, lamp, set, turn, usePreset };
});
