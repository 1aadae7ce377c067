/** Stands in for the browser's line of events: says what it is given to say. */
export class StandInEvents {
  static readonly CLOSED = 2;
  /** All that were opened, the newest last. */
  static readonly opened: StandInEvents[] = [];
  readyState = 1;
  onmessage: ((message: { data: string }) => void) | null = null;
  onopen: (() => void) | null = null;
  onerror: (() => void) | null = null;

  constructor(readonly address: string) {
    StandInEvents.opened.push(this);
  }

  say(event: unknown): void {
    this.onmessage?.({ data: JSON.stringify(event) });
  }

  /** The line is refused: the browser does not try again by itself. */
  refuse(): void {
    this.readyState = StandInEvents.CLOSED;
    this.onerror?.();
  }

  close(): void {
    this.readyState = StandInEvents.CLOSED;
  }
}
