import type { CutEdge } from '@fennip/core/examine';
import type { ShallowRef } from 'vue';
import { shallowRef, watch } from 'vue';
import { laterInMendWorker } from '../engine/page/workers.ts';
import { usePicture } from '../stores/picture.ts';
import { useView } from '../stores/view.ts';

/** The edges of the subject that run into the area that is chosen: what its repair must carry on. */
export function useCutEdges(): ShallowRef<readonly CutEdge[]> {
  const picture = usePicture();
  const view = useView();
  const edges = shallowRef<readonly CutEdge[]>([]);
  watch(
    () => view.focusEntry?.outline,
    async (outline) => {
      edges.value = [];
      const isStillOpen = picture.rememberOpen();
      if (!outline) return;
      const found = await laterInMendWorker((hand) => hand.edges(outline, 0));
      if (isStillOpen() && view.focusEntry?.outline === outline) edges.value = found;
    },
  );
  return edges;
}
