import { sentenceOf } from '@fennip/contract';
import type { NumberedFault } from '@fennip/core/fault';
import type { Mend } from '@fennip/core/mend';
import type { Edit, Step, Worksheet } from '@fennip/core/recipe';
import { RecipeError } from '@fennip/core/errors';
import { applySteps, emptyWorksheet } from '@fennip/core/recipe';
import type { EditAnswer, HistoryStep, Picture, PictureSheet } from '@fennip/contract';
import { proxy } from 'comlink';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import { AnswerError, get, post } from '../api/http.ts';
import { engine, openPicture } from '../engine/workers.ts';
import type { Rebuilding } from '../engine/rebuilders.ts';
import type { TableListener } from '../engine/openPicture.ts';
import type { Repainter } from '../engine/tileKey.ts';
import { say } from '../words/say.ts';
import { ledgerEntries } from '@fennip/core/ledger';

/** Pauses between attempts to send what could not be sent, in milliseconds. */
const RETRY_MS = 2000;
/** What is done is saved once it is to be seen, and where that takes its time, after so many milliseconds. */
const SEND_AT_LATEST_MS = 150;

/** Something the server is to carry out; tasks go one after the other, in the order they were given. */
type Task = { readonly kind: 'edit'; readonly edit: Edit } | { readonly kind: 'undo' | 'redo' };

/** Whether the same question may be answered a little later: the server or its database is away. */
const isPassing = ({ status }: AnswerError): boolean => status === 0 || status >= 500;

/** The picture on the table: its faults, its recipe, and the history they have. */
export const usePicture = defineStore('picture', () => {
  const picture = shallowRef<Picture | null>(null);
  const faults = shallowRef<readonly NumberedFault[]>([]);
  const worksheet = shallowRef<Worksheet>(emptyWorksheet({ width: 1, height: 1 }));
  /** The number the next fault marked by hand takes, as the server said last. */
  const nextFault = ref(1);
  const done = shallowRef<readonly HistoryStep[]>([]);
  const undone = shallowRef<readonly HistoryStep[]>([]);
  const problem = ref<string | null>(null);
  /** What the restorer should know: until it is read, or the next thing is done. */
  const notice = ref<string | null>(null);
  /** What hinders saving; it is no longer said once all is well. */
  let hindrance: string | null = null;
  const unsent = shallowRef<readonly Task[]>([]);
  /** Grows when all tiles must be painted anew. */
  const opening = ref(0);
  const repainters = new Set<Partial<Repainter>>();
  let revision = 0;
  let sending: Promise<void> | null = null;
  /** The picture that was asked for last; an answer about another one comes too late. */
  let wanted: string | null = null;
  /** The worksheet as the server has it: the one on the table without what still waits. */
  let confirmed = worksheet.value;

  const mends = computed(() => worksheet.value.recipe.mends);
  const fences = computed(() => worksheet.value.recipe.fences ?? []);
  const finish = computed(() => worksheet.value.recipe.finish ?? []);
  const entries = computed(() => ledgerEntries(faults.value, worksheet.value));
  const entryById = computed(() => new Map(entries.value.map((entry) => [entry.id, entry])));

  /** How far the rebuilds are that are being worked out; none where all that is seen is final. */
  const rebuilding = shallowRef<Rebuilding | null>(null);
  const listener: TableListener = {
    changed: (rect, follows) => {
      for (const repainter of repainters) repainter.changed?.(rect, follows);
    },
    painted: (key, bitmap, list) => {
      for (const repainter of repainters) repainter.painted?.(key, bitmap, list);
    },
    laid: (part, bitmap, list) => {
      for (const repainter of repainters) repainter.laid?.(part, bitmap, list);
    },
    touched: (part, bitmap, list) => {
      for (const repainter of repainters) repainter.touched?.(part, bitmap, list);
    },
    rebuilding: (next) => {
      rebuilding.value = next.ids.length > 0 ? next : null;
    },
  };

  const showMends = (): void => void engine().update(worksheet.value.recipe);

  /** A mend that is being made or changed: shown, and not yet part of the recipe. */
  const drafted = shallowRef<Mend | null>(null);
  let isDrafting = false;

  /** Shows a draft; while one is being worked out only the last of those that follow is kept. */
  async function draft(mend: Mend | null): Promise<void> {
    drafted.value = mend;
    if (isDrafting) return;
    isDrafting = true;
    try {
      let shown: Mend | null | undefined;
      while (shown !== drafted.value) {
        shown = drafted.value;
        await engine().draft(shown);
      }
    } finally {
      isDrafting = false;
    }
  }

  function takeSheet(sheet: PictureSheet): void {
    picture.value = sheet.picture;
    faults.value = sheet.faults;
    const { recipe, judgements, kinds, marked } = sheet;
    confirmed = { recipe, judgements, kinds, marked };
    nextFault.value = sheet.nextFault;
    worksheet.value = confirmed;
    revision = sheet.revision;
    done.value = sheet.done;
    undone.value = sheet.undone;
  }

  /** The picture that is being opened, until it is. */
  let opened: { readonly id: string; readonly work: Promise<void> } | null = null;

  /** Opens a picture. Its pixels come when the table asks for them. */
  function open(id: string): Promise<void> {
    if (opened?.id === id) return opened.work;
    const work = fetchAndOpen(id).finally(() => {
      if (opened?.work === work) opened = null;
    });
    opened = { id, work };
    return work;
  }

  async function fetchAndOpen(id: string): Promise<void> {
    wanted = id;
    if (picture.value?.id === id) {
      // Nobody listened while other pages of the job were open.
      await takeNewer();
      return;
    }
    // What waits belongs to the picture that is left, and the line that saves it opens the next one too.
    if (sending) await sending;
    if (wanted !== id) return;
    close();
    try {
      const asked = get<PictureSheet>(`/pictures/${id}`);
      // The worker that will paint it starts meanwhile.
      engine();
      const sheet = await asked;
      if (wanted !== id) return;
      takeSheet(sheet);
      const { pyramid, width, height, depth, channels, transfer } = sheet.picture;
      const tiled = {
        ...{ pyramid, width, height, depth, channels },
        ...(transfer ? { transfer } : {}),
      };
      openPicture(tiled, sheet.picture.finestLevel === 0);
      void engine().listen(proxy(listener));
      opening.value++;
      showMends();
    } catch (error) {
      problem.value = sentenceOf(error);
    }
  }

  function close(): void {
    picture.value = null;
    faults.value = [];
    problem.value = null;
    notice.value = null;
    unsent.value = [];
    drafted.value = null;
    rebuilding.value = null;
  }

  /** The sheet of the open picture as the server has it; none where that cannot be had. A broken line is tried again. */
  async function freshSheet(): Promise<PictureSheet | null> {
    const id = picture.value?.id;
    while (id !== undefined && picture.value?.id === id) {
      try {
        const sheet = await get<PictureSheet>(`/pictures/${id}`);
        return picture.value?.id === id ? sheet : null;
      } catch (error) {
        if (!(error instanceof AnswerError)) throw error;
        notice.value = error.message;
        if (!isPassing(error)) return null;
        await new Promise((resolve) => setTimeout(resolve, RETRY_MS));
      }
    }
    return null;
  }

  /** Loads everything about the open picture anew: faults after an examination, or another window's edits. */
  async function reload(): Promise<void> {
    const sheet = await freshSheet();
    if (!sheet || unsent.value.length > 0) return;
    takeSheet(sheet);
    showMends();
  }

  /** All is well: what hindered is no longer said. */
  function unhinder(): void {
    if (notice.value === hindrance) notice.value = null;
    hindrance = null;
  }

  /** Takes over what the server has carried out, and lays what still waits on top of it. */
  function confirm(steps: readonly Step[], answer: EditAnswer): void {
    revision = answer.revision;
    done.value = answer.done;
    undone.value = answer.undone;
    confirmed = applySteps(confirmed, steps).worksheet;
  }

  /** What an edit that waits makes of the sheet. One that an undo before it took the ground from is left to the server. */
  function withTask(sheet: Worksheet, task: Task): Worksheet {
    if (task.kind !== 'edit') return sheet;
    try {
      return applySteps(sheet, task.edit.steps).worksheet;
    } catch (error) {
      if (error instanceof RecipeError) return sheet;
      throw error;
    }
  }

  function showWaiting(): void {
    worksheet.value = unsent.value.reduce(withTask, confirmed);
    showMends();
  }

  /** Asks the server for what waits longest. */
  async function sendFirst(id: string, task: Task): Promise<void> {
    const answer =
      task.kind === 'edit'
        ? await post<EditAnswer>(`/pictures/${id}/edits`, { revision, edit: task.edit }, isLeaving)
        : await post<EditAnswer>(`/pictures/${id}/${task.kind}`, { revision }, isLeaving);
    if (picture.value?.id !== id) return;
    unsent.value = unsent.value.slice(1);
    confirm(task.kind === 'edit' ? task.edit.steps : answer.steps, answer);
    unhinder();
    // An edit is on the table since it was made.
    if (task.kind !== 'edit') showWaiting();
  }

  /** Sends what waits, one after the other, until all is saved. A broken line is tried again. */
  async function send(): Promise<void> {
    while (unsent.value.length > 0) {
      const id = picture.value?.id;
      if (!id) return;
      try {
        await sendFirst(id, unsent.value[0]);
      } catch (error) {
        if (!(error instanceof AnswerError)) throw error;
        notice.value = hindrance = error.message;
        if (isPassing(error)) {
          await new Promise((resolve) => setTimeout(resolve, RETRY_MS));
          continue;
        }
        // The server knows better: what it has is shown, and what it refused is gone.
        unsent.value = [];
        await reload();
      }
    }
  }

  /** The page may be left: what is sent from now on reaches the server all the same. */
  let isLeaving = false;
  let hurry = (): void => undefined;
  /** Waits for nothing more before what was done is saved, because the page is being left. */
  function saveNow(): void {
    isLeaving = true;
    hurry();
  }

  /** Sends what waits once `first` is to be seen: the server may share its cores with the page. */
  async function sendAfter(first: Promise<unknown>): Promise<void> {
    const atLatest = new Promise<void>((resolve) => {
      hurry = resolve;
      setTimeout(resolve, SEND_AT_LATEST_MS);
    });
    try {
      await Promise.race([first, atLatest]);
    } finally {
      await send();
    }
  }

  function enqueue(task: Task, first: Promise<unknown> = Promise.resolve()): void {
    // What was said of the last thing has been read.
    if (notice.value !== hindrance) notice.value = null;
    unsent.value = [...unsent.value, task];
    sending ??= sendAfter(first).finally(() => {
      sending = null;
      // Whoever was asked, and stayed, works on as before.
      isLeaving = false;
    });
  }

  /** Carries out an edit: on the table at once, in the database as soon as the line allows. */
  function perform(edit: Edit): void {
    worksheet.value = applySteps(worksheet.value, edit.steps).worksheet;
    drafted.value = null;
    const shown = engine().edit(edit.steps);
    undone.value = [];
    enqueue({ kind: 'edit', edit }, shown);
  }

  /** Ends when all that was done is saved. */
  const saved = async (): Promise<void> => {
    await sending;
  };

  /** What the hand has drawn and what is not a mend yet. */
  const making = new Set<Promise<unknown>>();
  /** Tells of something that will be an edit: an undo that is asked for meanwhile means it, and not the edit before. */
  function willEdit(work: Promise<unknown>): void {
    making.add(work);
    void work.catch(() => undefined).then(() => making.delete(work));
  }
  function onceMade(act: () => void): void {
    if (making.size === 0) act();
    else void Promise.allSettled([...making]).then(act);
  }

  const undo = (): void =>
    onceMade(() => {
      if (done.value.length + unsent.value.length > 0) enqueue({ kind: 'undo' });
    });
  const redo = (): void =>
    onceMade(() => {
      if (undone.value.length + unsent.value.length > 0) enqueue({ kind: 'redo' });
    });

  /** Goes so many steps forward, or back where it is negative. */
  function goBy(steps: number): void {
    for (let i = 0; i < Math.abs(steps); i++) (steps > 0 ? redo : undo)();
  }

  /** A number no fault of this picture has. */
  const freeNumber = (): number =>
    Math.max(nextFault.value, ...worksheet.value.marked.map(({ number }) => number + 1));

  const areOthersAhead = (theirs: number): boolean => theirs > revision && unsent.value.length === 0;

  /** Takes over what was done elsewhere, once ours is through. @returns whether there was anything */
  async function takeNewer(): Promise<boolean> {
    const sheet = await freshSheet();
    if (!sheet || !areOthersAhead(sheet.revision)) return false;
    takeSheet(sheet);
    showMends();
    return true;
  }

  /** The same, and says so: another window has done it. */
  async function catchUp(): Promise<void> {
    if (await takeNewer()) notice.value = say('notice.otherWindow');
  }

  /** Work that the server was asked for edits the picture as well; it is not another window's. */
  let isOwnWork = false;
  /** Has the server edit the picture, and shows what it made of it. */
  async function haveEdited<T>(work: () => Promise<T>): Promise<T> {
    await saved();
    isOwnWork = true;
    try {
      const answer = await work();
      await reload();
      return answer;
    } finally {
      isOwnWork = false;
    }
  }

  /** Another window changed the picture. */
  async function heardEdit(theirRevision: number): Promise<void> {
    if (isOwnWork) return;
    if (areOthersAhead(theirRevision)) await catchUp();
  }

  /** @returns a function that stops listening */
  function onRepaint(repainter: Partial<Repainter>): () => void {
    repainters.add(repainter);
    return () => repainters.delete(repainter);
  }

  return {
    picture,
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
    reload,
    drafted,
    draft,
    perform,
    willEdit,
    undo,
    redo,
    goBy,
    freeNumber,
    saved,
    saveNow,
    haveEdited,
    heardEdit,
    onRepaint,
  };
});
