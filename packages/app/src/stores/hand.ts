import type { HandTreatment, MethodName } from '@fennip/core/mend';
import type { PointedSource, Shift, Source, SourceWay } from '@fennip/core/source';
import type { Point } from '@fennip/core/target';
import {
  HAND_TREATMENTS,
  METHODS,
  METHOD_DESCRIPTIONS,
  TREATMENT_DESCRIPTIONS,
  isTreatmentName,
} from '@fennip/core/mend';
import { shiftForStroke } from '@fennip/core/source';
import { useLocalStorage } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';

/** The methods in the order of their keys. */
export const ARMED_METHODS: readonly MethodName[] = METHODS;
export type ArmedMethod = MethodName;

/** The fences, which the hand draws as it draws mends. */
export const FENCE_TOOLS = ['zone', 'guard'] as const;
export type FenceTool = (typeof FENCE_TOOLS)[number];

/** What is painted in and out: treatments, and a stain's tint taken out. */
export const TREAT_TOOLS: readonly TreatTool[] = [...HAND_TREATMENTS, 'stain'];
export type TreatTool = HandTreatment | 'stain';

/** What the hand can take up: a method, a treatment, a fence, marking faults without mending them, or leading an edge through a loss. */
export type Tool = ArmedMethod | TreatTool | FenceTool | 'mark' | 'guide';

export const isTreatTool = (tool: Tool | null): tool is TreatTool =>
  tool === 'stain' || (tool !== null && isTreatmentName(tool));

export const isFenceTool = (tool: Tool | null): tool is FenceTool => tool === 'zone' || tool === 'guard';

/** How the hand draws: with the round pen, or around an area. */
export const DRAWN_SHAPES = ['pen', 'outline'] as const;
export type DrawnShape = (typeof DRAWN_SHAPES)[number];

/** What the pressure of a pen changes. */
export const PRESSURES = ['size', 'share', 'nothing'] as const;
export type Pressure = (typeof PRESSURES)[number];

export const SOURCE_WAYS: readonly SourceWay[] = ['keeps its offset', 'starts anew', 'stays fixed'];

/** How a method's next mend is laid down. */
export interface HandSettings {
  /** Radius of the mark, in pixels of the picture. */
  readonly radius: number;
  /** Width of the soft border, in pixels. */
  readonly edge: number;
  /** How much of the fault is taken away, 0 to 1. */
  readonly share: number;
}

/** How the hand wants a mend to be laid down. */
export interface HandChoice extends Pick<HandSettings, 'edge' | 'share'> {
  /** The source that was set; none leaves the choice to the program. */
  readonly source: Source | null;
  readonly isEdgeFitted: boolean;
  readonly reads: 'mended' | 'original';
  readonly laying: 'along' | 'fixed';
}

const SMALLEST_MARK = 0.5;
const LARGEST_MARK = 400;
/** One press of a key makes the mark larger by this factor. */
const MARK_STEP = 1.15;

/** Tools that are neither a method nor a treatment. */
const OTHER_MARKS = {
  mark: { radius: 6, edge: 0, share: 1 },
  guide: { radius: 2, edge: 0, share: 1 },
  zone: { radius: 40, edge: 0, share: 1 },
  guard: { radius: 40, edge: 0, share: 1 },
  stain: { radius: 40, edge: 12, share: 1 },
} as const satisfies Partial<Record<Tool, HandSettings>>;

/** The mark of each tool before a person sets another. */
const USUAL = {
  ...OTHER_MARKS,
  ...Object.fromEntries(
    [...Object.values(METHOD_DESCRIPTIONS), ...Object.values(TREATMENT_DESCRIPTIONS)].flatMap(
      ({ name, mark }) => (mark ? [[name, mark]] : []),
    ),
  ),
} as Readonly<Record<Tool, HandSettings>>;

/** Settings as they were kept, with the usual ones for what is no number. */
function usable(kept: Partial<HandSettings> | undefined, usual: HandSettings): HandSettings {
  const numbers = Object.entries(kept ?? {}).filter(([, value]) => Number.isFinite(value));
  return { ...usual, ...Object.fromEntries(numbers) };
}

/** What the hand works with: the armed method, the mark to come, and the source it was given. */
export const useHand = defineStore('hand', () => {
  const tool = ref<Tool | null>(null);
  const shape = ref<DrawnShape>('pen');
  const settings = useLocalStorage<Record<Tool, HandSettings>>('fennip hand', { ...USUAL });
  const pressure = useLocalStorage<Pressure>('fennip pressure', 'size');
  const way = useLocalStorage<SourceWay>('fennip source way', 'keeps its offset');
  const reads = useLocalStorage<'mended' | 'original'>('fennip source reads', 'mended');
  /** True if a source is moved by up to a few pixels so that edges meet. */
  const isEdgeFitted = ref(false);
  const source = shallowRef<PointedSource | null>(null);
  /** A pen was seen: a finger pans from then on. */
  const hasPen = ref(false);
  /** The zone that the mends to come are bounded by, by id. */
  const zone = ref<string | null>(null);
  /** While held, a click sets the source. */
  const isSettingSource = ref(false);

  const current = computed((): HandSettings =>
    usable(settings.value[tool.value ?? 'heal'], USUAL[tool.value ?? 'heal']),
  );

  function set(changed: Partial<HandSettings>): void {
    const at = tool.value ?? 'heal';
    const next = { ...current.value, ...changed };
    const radius = Math.min(LARGEST_MARK, Math.max(SMALLEST_MARK, next.radius));
    settings.value = { ...settings.value, [at]: { ...next, radius } };
  }

  const resize = (steps: number): void => set({ radius: current.value.radius * MARK_STEP ** steps });

  /** Takes a tool up, or lays it down if it is the one in hand. */
  function arm(wanted: Tool): void {
    tool.value = tool.value === wanted ? null : wanted;
  }

  /** Lays down what is in hand: first the source being set, then the tool. @returns whether there was anything */
  function layDown(): boolean {
    if (tool.value === null) return false;
    tool.value = null;
    return true;
  }

  function setSource(place: Point): void {
    source.value = { place, lastShift: null };
  }

  /** A stroke was made from the source: the next one may keep its offset. */
  function usedSource(lastShift: Shift): void {
    if (source.value) source.value = { ...source.value, lastShift };
  }

  /** How a mend that begins at a point is laid down. */
  function choiceAt(start: Point): HandChoice {
    const { edge, share } = current.value;
    return {
      ...{ edge, share, reads: reads.value, isEdgeFitted: isEdgeFitted.value },
      source: source.value && shiftForStroke(way.value, source.value, start),
      laying: way.value === 'stays fixed' ? 'fixed' : 'along',
    };
  }

  function reset(): void {
    tool.value = null;
    source.value = null;
    zone.value = null;
    isSettingSource.value = false;
  }

  return {
    tool,
    shape,
    pressure,
    way,
    reads,
    isEdgeFitted,
    source,
    hasPen,
    zone,
    isSettingSource,
    current,
    set,
    resize,
    arm,
    layDown,
    setSource,
    usedSource,
    choiceAt,
    reset,
  };
});
