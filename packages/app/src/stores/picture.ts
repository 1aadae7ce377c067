import type { Edit, Rect, Step, Worksheet } from '@fennip/core';
import { applySteps, emptyRecipe } from '@fennip/core';
import type { EditAnswer, HistoryStep, NumberedFault, Picture, PictureSheet } from '@fennip/contract';
import { proxy } from 'comlink';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import { AnswerError, get, post } from '../api/http.ts';
import { engine } from '../engine/engine.ts';
import { ledgerEntries } from './ledgerEntry.ts';

/** Pauses between attempts to send what could not be sent, in milliseconds. */
const RETRY_MS = 2000;

/** The picture on the table: its faults, its recipe, and the history they have. */
export const usePicture = defineStore('picture', () => {
  const picture = ref<Picture | null>(null);
  const faults = shallowRef<readonly NumberedFault[]>([]);
  const worksheet = shallowRef<Worksheet>({ recipe: emptyRecipe({ width: 1, height: 1 }), judgements: {} });
  const done = ref<readonly HistoryStep[]>([]);
  const undone = ref<readonly HistoryStep[]>([]);
  const problem = ref<string | null>(null);
  /** What the restorer should know about saving; none while all is well. */
  const notice = ref<string | null>(null);
  const unsent = ref<readonly Edit[]>([]);
  const isTurning = ref(false);
  /** Grows when all tiles must be painted anew. */
  const opening = ref(0);
  const repainters = new Set<(rect: Rect) => void>();
  let revision = 0;
  let sending: Promise<void> | null = null;

  const mends = computed(() => worksheet.value.recipe.mends);
  const entries = computed(() => ledgerEntries(faults.value, mends.value, worksheet.value.judgements));
  const entryById = computed(() => new Map(entries.value.map((entry) => [entry.id, entry])));

  const repaint = (rect: Rect): void => {
    for (const repainter of repainters) repainter(rect);
  };

  function showMends(): void {
    void engine().update(worksheet.value.recipe, proxy(repaint));
  }

  function takeSheet(sheet: PictureSheet): void {
    picture.value = sheet.picture;
    faults.value = sheet.faults;
    worksheet.value = { recipe: sheet.recipe, judgements: sheet.judgements };
    revision = sheet.revision;
    done.value = sheet.done;
    undone.value = sheet.undone;
  }

  /** Opens a picture. Its pixels come when the table asks for them. */
  async function open(id: string): Promise<void> {
    if (picture.value?.id === id) return;
    close();
    try {
      const sheet = await get<PictureSheet>(`/pictures/${id}`);
      takeSheet(sheet);
      const { pyramid, width, height, depth, channels, transfer } = sheet.picture;
      await engine().open({
        ...{ pyramid, width, height, depth, channels },
        ...(transfer ? { transfer } : {}),
      });
      opening.value++;
      showMends();
    } catch (error) {
      problem.value = error instanceof Error ? error.message : String(error);
    }
  }

  function close(): void {
    picture.value = null;
    faults.value = [];
    problem.value = null;
    notice.value = null;
    unsent.value = [];
  }

  /** Loads everything about the open picture anew: faults after an examination, or another window's edits. */
  async function reload(): Promise<void> {
    const id = picture.value?.id;
    if (!id) return;
    const sheet = await get<PictureSheet>(`/pictures/${id}`);
    if (picture.value?.id !== id || unsent.value.length > 0) return;
    takeSheet(sheet);
    showMends();
  }

  function apply(steps: readonly Step[]): void {
    worksheet.value = applySteps(worksheet.value, steps).worksheet;
    showMends();
  }

  function takeAnswer(answer: EditAnswer): void {
    revision = answer.revision;
    done.value = answer.done;
    undone.value = answer.undone;
  }

  /** Sends what waits, one edit after the other, until all is saved. A broken line is tried again. */
  async function send(): Promise<void> {
    while (unsent.value.length > 0) {
      const id = picture.value?.id;
      if (!id) return;
      try {
        const answer = await post<EditAnswer>(`/pictures/${id}/edits`, { revision, edit: unsent.value[0] });
        if (picture.value?.id !== id) return;
        unsent.value = unsent.value.slice(1);
        takeAnswer(answer);
        notice.value = null;
      } catch (error) {
        if (!(error instanceof AnswerError)) throw error;
        notice.value = error.message;
        if (error.status === 0 || error.status >= 500) {
          await new Promise((resolve) => setTimeout(resolve, RETRY_MS));
          continue;
        }
        // The server knows better: what it has is shown, and what it refused is gone.
        unsent.value = [];
        await reload();
      }
    }
  }

  function flush(): Promise<void> {
    sending ??= send().finally(() => {
      sending = null;
    });
    return sending;
  }

  /** Carries out an edit: on the table at once, in the database as soon as the line allows. */
  function perform(edit: Edit): void {
    apply(edit.steps);
    unsent.value = [...unsent.value, edit];
    undone.value = [];
    void flush();
  }

  async function turn(direction: 'undo' | 'redo'): Promise<void> {
    const id = picture.value?.id;
    if (!id || isTurning.value) return;
    isTurning.value = true;
    try {
      await flush();
      const answer = await post<EditAnswer>(`/pictures/${id}/${direction}`, { revision });
      if (picture.value?.id !== id) return;
      takeAnswer(answer);
      apply(answer.steps);
      notice.value = null;
    } catch (error) {
      notice.value = error instanceof Error ? error.message : String(error);
      if (error instanceof AnswerError && error.status === 409) await reload();
    } finally {
      isTurning.value = false;
    }
  }

  const undo = (): Promise<void> => turn('undo');
  const redo = (): Promise<void> => turn('redo');

  /** Another window changed the picture: its edits are taken over once ours are through. */
  async function heardEdit(theirRevision: number): Promise<void> {
    if (theirRevision <= revision || unsent.value.length > 0 || isTurning.value) return;
    await reload();
    notice.value = 'Another window changed this picture. Its mends are shown here now.';
  }

  /** @returns a function that stops listening */
  function onRepaint(repainter: (rect: Rect) => void): () => void {
    repainters.add(repainter);
    return () => repainters.delete(repainter);
  }

  return {
    picture,
    faults,
    mends,
    entries,
    entryById,
    done,
    undone,
    problem,
    notice,
    unsent,
    opening,
    open,
    close,
    reload,
    perform,
    undo,
    redo,
    heardEdit,
    onRepaint,
  };
});
