interface Named {
  readonly id: string;
}

/** A thing of a list with its position, from 0. */
export interface Placed<T> {
  readonly thing: T;
  readonly at: number;
}

/**
 * A list of things with ids, while steps change it. A run of steps along the list takes time by their number alone: what
 * follows stands beside what was looked for last.
 */
export class DraftList<T extends Named> {
  readonly #ids: Set<string>;
  #last = 0;

  /** @param things changed in place; no two have the same id */
  constructor(readonly things: T[]) {
    this.#ids = new Set(things.map(({ id }) => id));
  }

  /** The position of a thing, from 0; -1 where there is none with this id. */
  indexOf(id: string): number {
    if (!this.#ids.has(id)) return -1;
    const isAt = (at: number): boolean => at >= 0 && this.things[at]?.id === id;
    const near = [this.#last, this.#last - 1, this.#last + 1, this.things.length - 1].find(isAt);
    this.#last = near ?? this.things.findIndex((thing) => thing.id === id);
    return this.#last;
  }

  /** Puts a thing in the place of the one with its id, which is given back, or else before a position; beyond the end is the end. */
  put(thing: T, before: number): Placed<T> | null {
    const at = this.indexOf(thing.id);
    if (at >= 0) return { thing: this.things.splice(at, 1, thing)[0], at };
    this.things.splice(before, 0, thing);
    this.#ids.add(thing.id);
    return null;
  }

  /** Takes a thing out; null where there is none with this id. */
  takeOut(id: string): Placed<T> | null {
    const at = this.indexOf(id);
    if (at < 0) return null;
    this.#ids.delete(id);
    return { thing: this.things.splice(at, 1)[0], at };
  }
}
