import type { LedgerEntry } from '@fennip/core/ledger';
import { useEventListener } from '@vueuse/core';
import type { Ref } from 'vue';
import { computed, shallowRef } from 'vue';
import { createFenceLayer } from '../canvas/drawFences.ts';
import type { MarkColours } from '../canvas/drawMark.ts';
import { drawBrush, drawCourse, drawPending } from '../canvas/drawPending.ts';
import { createMarkLayer } from '../canvas/markLayer.ts';
import type { Pending } from '../canvas/pending.ts';
import type { PenPoint } from '../canvas/penPoint.ts';
import type { Sight, Size } from '../canvas/viewport.ts';
import { useFences } from '../stores/fences.ts';
import { useFinish } from '../stores/finish.ts';
import { useGuides } from '../stores/guides.ts';
import { isFenceTool, useHand } from '../stores/hand.ts';
import { usePicture } from '../stores/picture.ts';
import { useView } from '../stores/view.ts';
import { useCutEdges } from './useCutEdges.ts';

export interface OverlaidTable {
  readonly sight: Ref<Sight>;
  readonly table: Ref<Size>;
  /** The sides of the picture as it came in, and as it is framed. */
  readonly original: Ref<Size>;
  readonly sides: Ref<Size>;
  readonly colours: Ref<MarkColours>;
  readonly pointer: Ref<readonly [number, number] | null>;
  readonly isPanning: Ref<boolean>;
  readonly pending: Ref<Pending | null>;
  /** Lines that are being laid down. */
  readonly laying: Ref<readonly (readonly PenPoint[])[]>;
  readonly shown: Ref<readonly LedgerEntry[]>;
  readonly marksNear: (left: number, top: number, right: number, bottom: number) => LedgerEntry[];
}

/** Tags are drawn when marks stand at least this far apart on average, in screen pixels. */
const TAG_SPACING = 52;

/** What is drawn over the picture: fences, marks, what the hand draws. */
export function useOverlay(on: OverlaidTable) {
  const { sight, table, original, sides, colours, pointer, isPanning, pending, laying, shown, marksNear } =
    on;
  const picture = usePicture();
  const view = useView();
  const hand = useHand();
  const fences = useFences();
  const guides = useGuides();
  const finish = useFinish();
  const cutEdges = useCutEdges();

  const freshLayers = () => ({ fences: createFenceLayer(), marks: createMarkLayer() });
  const layers = shallowRef(freshLayers());
  // What a layer keeps is lettered in a stand-in's letters until the typeface is there.
  useEventListener(document.fonts, 'loadingdone', () => {
    layers.value = freshLayers();
  });

  /** The fences as they are shown: one that is being drawn as it will be. */
  const fencesShown = computed(() => {
    if (view.isOriginalHeld || (view.marks === 'none' && !isFenceTool(hand.tool))) return [];
    const { drafted, currentId } = fences;
    if (drafted === null) return fences.list;
    const draft = { id: 'drafted', kind: 'zone', name: '', area: drafted, edge: 0, on: true } as const;
    return [...fences.list.filter(({ id }) => id !== currentId), draft];
  });

  /** What is drawn round and wide under the pointer. */
  const hasBrush = computed(() =>
    isFenceTool(hand.tool)
      ? fences.shape === 'brush'
      : hand.tool !== null && hand.tool !== 'guide' && hand.shape === 'pen',
  );

  function hasRoomForTags(): boolean {
    const { width, height } = table.value;
    const { scale } = sight.value;
    const area = Math.min(width * height, sides.value.width * sides.value.height * scale ** 2);
    return Math.sqrt(area / Math.max(1, shown.value.length)) > TAG_SPACING;
  }

  function drawHand(context: CanvasRenderingContext2D): void {
    const glass = { view: sight.value, table: table.value };
    const { chosen } = colours.value;
    for (const points of laying.value) drawCourse(context, glass, points, chosen);
    if (pending.value) drawPending(context, glass, pending.value, chosen);
    else if (hasBrush.value && pointer.value && !isPanning.value) {
      if (hand.isSettingSource) context.setLineDash([3, 3]);
      drawBrush(context, ...pointer.value, hand.current.radius * glass.view.scale, chosen);
      context.setLineDash([]);
    }
  }

  function draw(context: CanvasRenderingContext2D): void {
    const glass = { view: sight.value, table: table.value };
    layers.value.fences.draw(context, {
      ...glass,
      fences: fencesShown.value,
      current: fences.currentId,
      isHatched: isFenceTool(hand.tool),
      picture: original.value,
      letterOf: fences.letterOf,
    });
    layers.value.marks.draw(context, {
      ...glass,
      shown: shown.value,
      within: marksNear,
      withTags: hasRoomForTags(),
      chosen: view.chosen,
      // What is finished is looked at without handles on it, unless marks are asked for.
      focus: view.isOriginalHeld || (finish.isOpen && view.marks === 'none') ? null : view.focusEntry,
      hovered: view.hovered,
      cutEdges: cutEdges.value,
      guides: view.isOriginalHeld ? [] : guides.offered,
      drafted: picture.drafted,
      pointer: hand.tool === null ? pointer.value : null,
      colours: colours.value,
    });
    drawHand(context);
  }

  /** All that it is drawn from, but where one looks. */
  const sources = [
    layers,
    shown,
    pointer,
    pending,
    laying,
    () => view.chosen,
    () => view.hovered,
    cutEdges,
    () => guides.offered,
    () => picture.drafted,
    fencesShown,
    hasBrush,
    () => fences.currentId,
    () => hand.tool,
    () => hand.shape,
    () => hand.current,
    () => hand.isSettingSource,
  ];

  return { draw, sources };
}
