import { sentenceOf } from '@fennip/contract';
import type { Picture, PictureSheet } from '@fennip/contract';
import { ledgerEntries } from '@fennip/core/ledger';
import type { Mend } from '@fennip/core/mend';
import type { Edit } from '@fennip/core/recipe';
import { proxy } from 'comlink';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import type { AnswerError } from '../api/http.ts';
import { call, callOutliving } from '../api/call.ts';
import type { Rebuilding } from '../engine/table/rebuilders.ts';
import { engine, openPicture } from '../engine/page/workers.ts';
import { createEditQueue } from '../sync/editQueue.ts';
import { followLatest } from '../sync/followLatest.ts';
import { createPendingEdits } from '../sync/pendingEdits.ts';
import { askUntilAnswered } from '../sync/askUntilAnswered.ts';
import { createRepaintBus } from '../sync/repaintBus.ts';
import type { Task } from '../sync/sheetState.ts';
import * as sheets from '../sync/sheetState.ts';
import { say } from '../i18n/say.ts';

/** The picture that is open: its faults, its recipe, and the history they have. */
export const usePicture = defineStore('picture', () => {
  const picture = shallowRef<Picture | null>(null);
  /** What its values mean in light; sRGB where it is missing. */
  const transfer = shallowRef<PictureSheet['transfer']>();
  const state = shallowRef(sheets.noSheet);
  const problem = ref<string | null>(null);
  /** What the restorer should know: until it is read, or the next thing is done. */
  const notice = ref<string | null>(null);
  /** What hinders saving; it is no longer said once all is well. */
  let hindrance: string | null = null;
  /** Grows when all tiles must be painted anew. */
  const opening = ref(0);
  /** How far the rebuilds are that are being worked out; none where all that is seen is final. */
  const rebuilding = shallowRef<Rebuilding | null>(null);
  /** A mend that is being made or changed: shown, and not yet part of the recipe. */
  const drafted = shallowRef<Mend | null>(null);
  /** The picture that was asked for last; an answer about another one comes too late. */
  let requested: string | null = null;
  /** The picture that is being opened, until it is. */
  let beingOpened: { readonly id: string; readonly work: Promise<void> } | null = null;
  /** Work that the server was asked for edits the picture as well; it is not another window's. */
  let isOwnWork = false;

  const faults = computed(() => state.value.faults);
  const done = computed(() => state.value.done);
  const undone = computed(() => state.value.undone);
  const unsent = computed(() => state.value.waiting);
  const worksheet = computed(() => state.value.shown);
  const mends = computed(() => worksheet.value.recipe.mends);
  const fences = computed(() => worksheet.value.recipe.fences ?? []);
  const finish = computed(() => worksheet.value.recipe.finish ?? []);
  const entries = computed(() => ledgerEntries(faults.value, worksheet.value));
  const entryById = computed(() => new Map(entries.value.map((entry) => [entry.id, entry])));

  const bus = createRepaintBus();
  const edits = createPendingEdits();
  const showDraft = followLatest(
    () => drafted.value,
    (mend) => engine().draft(mend),
  );
  const queue = createEditQueue<Task>({
    next: () => (picture.value ? state.value.waiting.at(0) : undefined),
    carryOut,
    onTrouble: (error) => (notice.value = hindrance = error.message),
    // The server knows better: what it has is shown, and what it refused is gone.
    onRefused: () => {
      state.value = sheets.withoutWaiting(state.value);
      return reload();
    },
  });

  const showMends = (): void => void engine().update(worksheet.value.recipe);

  /** Remembers which picture is open. @returns a function that is true while it still is */
  function rememberOpen(): () => boolean {
    const id = picture.value?.id;
    return () => id !== undefined && picture.value?.id === id;
  }

  /** Shows a draft; while one is being worked out only the last of those that follow is kept. */
  function draft(mend: Mend | null): Promise<void> {
    drafted.value = mend;
    return showDraft();
  }

  /** Takes over what the server says of a picture. */
  function takeSheet(sheet: PictureSheet): void {
    picture.value = sheet.picture;
    transfer.value = sheet.transfer;
    state.value = sheets.sheetFrom(sheet);
  }

  /** Opens a picture. Its pixels come when the table asks for them. */
  function open(id: string): Promise<void> {
    if (beingOpened?.id === id) return beingOpened.work;
    const work = fetchAndOpen(id).finally(() => {
      if (beingOpened?.work === work) beingOpened = null;
    });
    beingOpened = { id, work };
    return work;
  }

  async function fetchAndOpen(id: string): Promise<void> {
    requested = id;
    if (picture.value?.id === id) {
      // Nobody listened while other pages of the job were open.
      await takeNewer();
      return;
    }
    // What waits belongs to the picture that is left, and the line that saves it opens the next one too.
    await queue.idle();
    if (requested !== id) return;
    close();
    try {
      const asked = call('picture', { picture: id });
      // The worker that will paint it starts meanwhile.
      engine();
      const sheet = await asked;
      if (requested !== id) return;
      takeSheet(sheet);
      openInWorkers(sheet);
      opening.value++;
      showMends();
    } catch (error) {
      problem.value = sentenceOf(error);
    }
  }

  function openInWorkers({ picture: opened, transfer: light }: PictureSheet): void {
    const { pyramid, width, height, depth, channels, finestLevel } = opened;
    const tiled = { pyramid, width, height, depth, channels, ...(light ? { transfer: light } : {}) };
    openPicture(tiled, finestLevel === 0);
    const { changed, painted, laid, touched } = bus;
    const onRebuilding = (next: Rebuilding): void => {
      rebuilding.value = next.ids.length > 0 ? next : null;
    };
    void engine().listen(proxy({ changed, painted, laid, touched, rebuilding: onRebuilding }));
  }

  function close(): void {
    picture.value = null;
    state.value = { ...sheets.withoutWaiting(state.value), faults: [] };
    problem.value = null;
    notice.value = null;
    drafted.value = null;
    rebuilding.value = null;
  }

  /** The sheet of the open picture as the server has it; none where that cannot be had. */
  async function freshSheet(): Promise<PictureSheet | null> {
    const id = picture.value?.id ?? '';
    const onTrouble = ({ message }: AnswerError): void => void (notice.value = message);
    return askUntilAnswered(() => call('picture', { picture: id }), { isWanted: rememberOpen(), onTrouble });
  }

  /** Loads everything about the open picture anew: faults after an examination, or another window's edits. */
  async function reload(): Promise<void> {
    const sheet = await freshSheet();
    if (!sheet || unsent.value.length > 0) return;
    takeSheet(sheet);
    showMends();
  }

  async function carryOut(task: Task, outlivesPage: boolean): Promise<void> {
    const isStillOpen = rememberOpen();
    const at = { picture: picture.value?.id ?? '' };
    const send = outlivesPage ? callOutliving : call;
    const { revision } = state.value;
    const answer =
      task.kind === 'edit'
        ? await send('edit', at, { revision, edit: task.edit })
        : await send(task.kind, at, { revision });
    if (!isStillOpen()) return;
    state.value = sheets.withAnswer(state.value, answer);
    if (notice.value === hindrance) notice.value = null;
    hindrance = null;
    // An edit has been shown since it was made.
    if (task.kind !== 'edit') showMends();
  }

  /** Sends what waits. What was said of the last thing has been read. */
  function send(seen?: Promise<unknown>): void {
    if (notice.value !== hindrance) notice.value = null;
    queue.start(seen);
  }

  /** Carries out an edit: on the table at once, in the database as soon as the line allows. */
  function perform(edit: Edit): void {
    state.value = sheets.withEdit(state.value, edit);
    drafted.value = null;
    send(engine().edit(edit.steps));
  }

  function turn(kind: 'undo' | 'redo'): void {
    const steps = kind === 'undo' ? done.value : undone.value;
    if (steps.length + unsent.value.length === 0) return;
    state.value = sheets.withTurn(state.value, kind);
    send();
  }
  const undo = (): void => edits.afterAll(() => turn('undo'));
  const redo = (): void => edits.afterAll(() => turn('redo'));

  /** Goes so many steps forward, or back where it is negative. */
  function goBy(steps: number): void {
    for (let i = 0; i < Math.abs(steps); i++) (steps > 0 ? redo : undo)();
  }

  /** Takes over what was done elsewhere, once ours is through. @returns true if there was anything */
  async function takeNewer(): Promise<boolean> {
    const sheet = await freshSheet();
    if (!sheet || !sheets.isBehind(state.value, sheet.revision)) return false;
    takeSheet(sheet);
    showMends();
    return true;
  }

  /** Has the server edit the picture, and shows what it made of it. */
  async function haveEdited<T>(work: () => Promise<T>): Promise<T> {
    await queue.idle();
    isOwnWork = true;
    try {
      const answer = await work();
      await reload();
      return answer;
    } finally {
      isOwnWork = false;
    }
  }

  /** Takes over what another window changed, and says so. */
  async function heardEdit(theirRevision: number): Promise<void> {
    if (isOwnWork || !sheets.isBehind(state.value, theirRevision)) return;
    if (await takeNewer()) notice.value = say('notice.otherWindow');
  }

  return {
    picture,
    transfer,
    faults,
    mends,
    fences,
    finish,
    entries,
    entryById,
    done,
    undone,
    problem,
    notice,
    unsent,
    rebuilding,
    opening,
    open,
    close,
    rememberOpen,
    takeSheet,
    reload,
    drafted,
    draft,
    perform,
    /** Tells of work that will be an edit: an undo that is asked for meanwhile means it, and not the edit before. */
    willEdit: edits.add,
    undo,
    redo,
    goBy,
    /** A number no fault of this picture has. */
    freeNumber: (): number => sheets.freeNumber(state.value),
    /** Ends when all that was done is saved. */
    saved: queue.idle,
    /** Waits for nothing more before what was done is saved, because the page is being left. */
    saveNow: queue.hurry,
    haveEdited,
    heardEdit,
    onRepaint: bus.listen,
  };
});
