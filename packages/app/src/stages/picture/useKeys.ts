import { onBeforeUnmount, onMounted, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useJob } from '../../stores/job.ts';
import { usePicture } from '../../stores/picture.ts';
import { useView } from '../../stores/view.ts';
import { useMending } from '../../work/useMending.ts';

/** What the keys do, for the help. Every key has a button as well. */
export const KEY_HELP: readonly (readonly [keys: string, what: string])[] = [
  ['W', 'take up recover, or lay it down'],
  ['E', 'take up heal, or lay it down'],
  ['S D', 'make the mark smaller, larger'],
  ['F', 'whole picture, or 1:1 at the pointer'],
  ['+ −', 'closer, farther'],
  ['X', 'show the original while held'],
  ['Q', 'split between before and after'],
  ['V', 'which marks are shown: all, open, chosen, none'],
  ['↓ ↑', 'next, previous fault'],
  ['Enter', 'mend what is chosen and go on'],
  ['Backspace', 'dismiss what is chosen and go on'],
  ['1 2 3 4 5 6', 'take a source'],
  ['Ctrl+Z', 'undo'],
  ['Ctrl+Shift+Z', 'redo'],
  ['PgUp PgDn', 'previous, next picture'],
  ['Esc', 'lay the method down, choose nothing'],
  ['?', 'this help'],
];

export interface KeyActions {
  readonly swapFit: () => void;
  readonly closer: () => void;
  readonly farther: () => void;
  readonly step: (by: 1 | -1) => void;
  readonly takeSource: (number: number) => void;
}

/** Where keys mean text or a control's own business. */
function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    target.closest(
      'input, textarea, select, [role="slider"], [role="dialog"], [role="listbox"], [role="combobox"]',
    ) !== null
  );
}
/** The link of the stage one is in keeps the focus after the click that led here, and has nothing more to do. */
const isControl = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && target.closest('button, a:not([aria-current]), [role="button"]') !== null;

/** The keys of the table. */
export function useKeys(actions: KeyActions) {
  const router = useRouter();
  const route = useRoute();
  const job = useJob();
  const picture = usePicture();
  const view = useView();
  const { mendEntries, dismiss } = useMending();
  const isHelpOpen = ref(false);

  function turnPage(by: 1 | -1): void {
    const ready = job.pictures.filter(({ state }) => state !== 'failed');
    const next = ready[ready.findIndex(({ id }) => id === picture.picture?.id) + by];
    if (next) void router.push({ name: 'picture', params: { ...route.params, picture: next.id } });
  }

  /** Steps first, so that what is looked at next does not wait for the work. */
  function settle(act: (entries: typeof view.chosenEntries) => unknown): void {
    const entries = view.chosenEntries;
    if (entries.length === 0) return;
    if (entries.length === 1) actions.step(1);
    void act(entries);
  }

  const plain: Readonly<Record<string, () => void>> = {
    w: () => view.arm('recover'),
    e: () => view.arm('heal'),
    s: () => view.resizeMark(-1),
    d: () => view.resizeMark(1),
    f: actions.swapFit,
    '+': actions.closer,
    '=': actions.closer,
    '-': actions.farther,
    x: () => {
      view.isOriginalHeld = true;
    },
    q: () => {
      view.isSplit = !view.isSplit;
    },
    v: view.turnMarks,
    arrowdown: () => actions.step(1),
    arrowright: () => actions.step(1),
    arrowup: () => actions.step(-1),
    arrowleft: () => actions.step(-1),
    enter: () => settle((entries) => mendEntries(entries)),
    backspace: () => settle(dismiss),
    pageup: () => turnPage(-1),
    pagedown: () => turnPage(1),
    escape: () => {
      if (view.method !== null) view.method = null;
      else view.choose([]);
    },
    '?': () => {
      isHelpOpen.value = true;
    },
  };

  function down(event: KeyboardEvent): void {
    if (isTyping(event.target)) return;
    const key = event.key.toLowerCase();
    if ((event.ctrlKey || event.metaKey) && key === 'z') {
      event.preventDefault();
      void (event.shiftKey ? picture.redo() : picture.undo());
      return;
    }
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    // Enter on a button presses it; on a line of the ledger it mends that line.
    if (key === 'enter' && isControl(event.target) && !(event.target as HTMLElement).dataset['entry']) return;
    if (/^[1-6]$/.test(key)) actions.takeSource(Number(key));
    else if (Object.hasOwn(plain, key)) plain[key]();
    else return;
    event.preventDefault();
  }

  function up(event: KeyboardEvent): void {
    if (event.key.toLowerCase() === 'x') view.isOriginalHeld = false;
  }
  const letGo = (): void => {
    view.isOriginalHeld = false;
  };

  onMounted(() => {
    addEventListener('keydown', down);
    addEventListener('keyup', up);
    addEventListener('blur', letGo);
  });
  onBeforeUnmount(() => {
    removeEventListener('keydown', down);
    removeEventListener('keyup', up);
    removeEventListener('blur', letGo);
  });

  return { isHelpOpen };
}
