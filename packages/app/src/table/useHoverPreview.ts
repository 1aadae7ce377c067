import type { Mend } from '@fennip/core/mend';
import type { Ref } from 'vue';
import { watch } from 'vue';
import { useHand } from '../stores/hand.ts';
import { usePicture } from '../stores/picture.ts';
import { useMendDrawn } from '../actions/useMendDrawn.ts';

export interface HoverTable {
  /** Where the pointer is on the screen, while nothing is being done with it. */
  readonly pointer: Ref<readonly [number, number] | null>;
  readonly toPicture: (sx: number, sy: number) => readonly [number, number];
}

/** The id of what is shown under the pointer; no mend that is laid down has it. */
const PREVIEW = 'preview';

/** Shows under the pointer what a click would lay down, while a source is set for the method in hand. */
export function useHoverPreview({ pointer, toPicture }: HoverTable): void {
  const hand = useHand();
  const picture = usePicture();
  const { mendFor } = useMendDrawn();

  function previewAt(place: readonly [number, number]): Promise<Mend> | null {
    const { tool: method, source } = hand;
    if (!source || hand.shape !== 'pen' || hand.isSettingSource) return null;
    if (method !== 'clone' && method !== 'heal') return null;
    const [x, y] = toPicture(...place);
    // A fit takes longer than a look; it is made when the mend is.
    const by = { ...hand.choiceAt([x, y]), isEdgeFitted: false };
    return mendFor({ shape: 'disc', x, y, r: hand.current.radius }, method, by);
  }

  watch([pointer, () => hand.current, () => hand.source, () => hand.tool], async () => {
    const isShown = picture.drafted?.id === PREVIEW;
    const wanted = pointer.value && (await previewAt(pointer.value));
    // Something else is being drafted by now.
    if (picture.drafted !== null && picture.drafted.id !== PREVIEW) return;
    if (wanted && pointer.value) await picture.draft({ ...wanted, id: PREVIEW });
    else if (isShown) await picture.draft(null);
  });
}
