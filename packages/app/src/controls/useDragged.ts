/** What a control of one value does when it is dragged or nudged. */
export interface Dragged {
  /** The pressed pointer is here: shares of the control's width and height, from its upper left corner. */
  readonly moved: (across: number, down: number) => void;
  /** An arrow key asks for one step more or less. */
  readonly stepped: (by: 1 | -1) => void;
}

const STEPS: Readonly<Record<string, 1 | -1 | undefined>> = {
  ArrowLeft: -1,
  ArrowDown: -1,
  ArrowRight: 1,
  ArrowUp: 1,
};

/** A control whose value follows the pressed pointer, also beyond its border, and the arrow keys. */
export function useDragged({ moved, stepped }: Dragged) {
  function follow(event: PointerEvent): void {
    const control = event.currentTarget;
    if (event.buttons !== 1 || !(control instanceof Element)) return;
    control.setPointerCapture(event.pointerId);
    const box = control.getBoundingClientRect();
    moved((event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height);
  }

  function nudge(event: KeyboardEvent): void {
    const by = STEPS[event.key];
    if (by === undefined) return;
    event.preventDefault();
    // The keys of the table have other uses for the arrows.
    event.stopPropagation();
    stepped(by);
  }

  return { follow, nudge };
}
