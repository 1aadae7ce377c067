import { onBeforeUnmount, onMounted, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useJob } from '../../stores/job.ts';
import { useLamp } from '../../stores/lamp.ts';
import { usePicture } from '../../stores/picture.ts';
import type { ArmedMethod } from '../../stores/hand.ts';
import { useFences } from '../../stores/fences.ts';
import { useFinish } from '../../stores/finish.ts';
import type { TreatTool } from '../../stores/hand.ts';
import { isFenceTool, isTreatTool, useHand } from '../../stores/hand.ts';
import { useRound } from '../../round/useRound.ts';
import { useView } from '../../stores/view.ts';
import type { WordKey } from '../../i18n/say.ts';
import { useLedgerWork } from '../../actions/useLedgerWork.ts';
import { useFencing } from '../../actions/useFencing.ts';
import { useLeading } from '../../actions/useLeading.ts';
import { useMendRuns } from '../../actions/useMendRuns.ts';
import { useMendChanges } from '../../actions/useMendChanges.ts';
import { useWear } from '../../actions/useWear.ts';

/** What the keys do, for the help. Every key has a button as well. */
export const KEY_HELP: readonly (readonly [keys: string, what: WordKey])[] = [
  ['W E R T Y', 'key.methods'],
  ['M', 'key.mark'],
  ['P', 'key.treat'],
  ['Z G', 'key.fences'],
  ['H', 'key.holes'],
  ['A', 'key.source'],
  ['S D', 'key.size'],
  ['O', 'key.shape'],
  ['Shift', 'key.shift'],
  ['Alt', 'key.alt'],
  ['F', 'key.fit'],
  ['+ −', 'key.zoom'],
  ['X', 'key.original'],
  ['C', 'key.lamp'],
  ['Q', 'key.split'],
  ['B', 'key.blink'],
  ['V', 'key.marks'],
  ['↓ ↑', 'key.step'],
  ['Enter', 'key.accept'],
  ['Backspace', 'key.dismiss'],
  ['1 2 3 4 5 6', 'key.takeSource'],
  ['L', 'key.fitSource'],
  ['J', 'key.guide'],
  ['Shift+1 Shift+9', 'key.turnGuide'],
  ['U', 'key.otherSources'],
  ['Del', 'key.remove'],
  ['Space', 'key.pan'],
  ['Ctrl+Z', 'key.undo'],
  ['Ctrl+Shift+Z', 'key.redo'],
  ['PgUp PgDn', 'key.page'],
  ['Esc', 'key.escape'],
  ['?', 'key.help'],
];

export interface KeyActions {
  readonly swapFit: () => void;
  readonly closer: () => void;
  readonly farther: () => void;
  readonly step: (by: 1 | -1) => void;
  readonly takeSource: (number: number) => void;
  readonly fitSource: () => void;
  readonly closeOutline: () => boolean;
  readonly dropPending: () => boolean;
  readonly holdSpace: (isHeld: boolean) => void;
}

/** Where keys mean text or a control's own business. */
function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    target.closest(
      'input, textarea, select, [role="dialog"], [role="menu"], [role="listbox"], [role="combobox"]',
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
  const hand = useHand();
  const round = useRound();
  const lamp = useLamp();
  const { mendEntries } = useMendRuns();
  const { removeAll } = useMendChanges();
  const { dismiss, unmark } = useLedgerWork();
  const { reshape } = useFencing();
  const { useOtherSources } = useWear();
  const leading = useLeading();
  const fences = useFences();
  const finish = useFinish();
  const isHelpOpen = ref(false);
  /** The treatment that was in hand last. */
  let lastTreatment: TreatTool = 'sift';
  watch(
    () => hand.tool,
    (tool) => {
      if (isTreatTool(tool)) lastTreatment = tool;
    },
  );

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

  const step = (by: 1 | -1): void => {
    if (round.isOn) round.step(by);
    else actions.step(by);
  };

  /** In a round a method's key makes the current fault's mend by it; else it takes the method up. */
  function armOrRemake(method: ArmedMethod): void {
    if (round.isOn) void round.makeBy(method);
    else hand.arm(method);
  }

  const plain: Readonly<Record<string, () => void>> = {
    w: () => armOrRemake('recover'),
    e: () => armOrRemake('heal'),
    r: () => armOrRemake('clone'),
    t: () => armOrRemake('bridge'),
    y: () => armOrRemake('rebuild'),
    m: () => hand.arm('mark'),
    j: () => hand.arm('guide'),
    p: () => hand.arm(lastTreatment),
    z: () => hand.arm('zone'),
    g: () => hand.arm('guard'),
    u: () => void useOtherSources(view.chosenEntries.flatMap(({ mend }) => (mend ? [mend] : []))),
    h: () => void reshape({ how: 'fill holes' }),
    a: () => {
      hand.isSettingSource =
        hand.tool !== null &&
        hand.tool !== 'mark' &&
        hand.tool !== 'guide' &&
        !isFenceTool(hand.tool) &&
        (!isTreatTool(hand.tool) || hand.tool === 'match' || hand.tool === 'draw');
    },
    s: () => hand.resize(-1),
    d: () => hand.resize(1),
    o: () => {
      if (isFenceTool(hand.tool)) fences.turnShape();
      else hand.shape = hand.shape === 'pen' ? 'outline' : 'pen';
    },
    l: actions.fitSource,
    delete: () => {
      const mends = view.chosenEntries.flatMap(({ mend }) => (mend ? [mend] : []));
      if (mends.length > 0) removeAll(mends);
      else unmark(view.chosenEntries);
    },
    ' ': () => actions.holdSpace(true),
    f: actions.swapFit,
    '+': actions.closer,
    '=': actions.closer,
    '-': actions.farther,
    x: () => {
      view.isOriginalHeld = true;
    },
    c: lamp.turn,
    q: () => view.compareBy('split'),
    b: () => view.compareBy('blinking'),
    v: view.turnMarks,
    arrowdown: () => step(1),
    arrowright: () => step(1),
    arrowup: () => step(-1),
    arrowleft: () => step(-1),
    enter: () => {
      if (actions.closeOutline()) return;
      if (round.isOn) round.accept();
      else settle((entries) => mendEntries(entries));
    },
    backspace: () => {
      if (round.isOn) round.dismissCurrent();
      else settle(dismiss);
    },
    pageup: () => turnPage(-1),
    pagedown: () => turnPage(1),
    escape: () => {
      if (actions.dropPending() || hand.layDown()) return;
      if (finish.pointedAt !== null) {
        finish.pointedAt = null;
        return;
      }
      if (round.isOn) round.leave();
      else view.choose([]);
    },
    '?': () => {
      isHelpOpen.value = true;
    },
  };

  function down(event: KeyboardEvent): void {
    // A control that has a use for the key has taken it.
    if (event.defaultPrevented || isTyping(event.target)) return;
    const key = event.key.toLowerCase();
    if ((event.ctrlKey || event.metaKey) && key === 'z') {
      event.preventDefault();
      void (event.shiftKey ? picture.redo() : picture.undo());
      return;
    }
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    // Enter on a button presses it; on a line of the ledger it mends that line.
    if (
      (key === 'enter' || key === ' ') &&
      isControl(event.target) &&
      !(event.target as HTMLElement).dataset['entry']
    )
      return;
    // With shift a digit's key gives a sign of its own.
    const digit = event.shiftKey ? /^Digit([1-9])$/.exec(event.code) : null;
    if (digit) leading.turn(Number(digit[1]));
    else if (/^[1-6]$/.test(key)) actions.takeSource(Number(key));
    else if (Object.hasOwn(plain, key)) plain[key]();
    else return;
    event.preventDefault();
  }

  function up(event: KeyboardEvent): void {
    const key = event.key.toLowerCase();
    if (key === 'x') view.isOriginalHeld = false;
    if (key === 'a') hand.isSettingSource = false;
    if (key === ' ') actions.holdSpace(false);
  }
  const letGo = (): void => {
    view.isOriginalHeld = false;
    hand.isSettingSource = false;
    actions.holdSpace(false);
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
