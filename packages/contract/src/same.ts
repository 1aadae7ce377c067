type Plain<T> = T extends readonly (infer U)[]
  ? T extends readonly [infer A, infer B]
    ? [Plain<A>, Plain<B>]
    : Plain<U>[]
  : T extends object
    ? { -readonly [K in keyof T]: Plain<T[K]> }
    : T;

/** `true` when two types can stand for each other, whatever is read-only in them. */
export type Same<A, B> = [Plain<A>] extends [Plain<B>]
  ? [Plain<B>] extends [Plain<A>]
    ? true
    : never
  : never;
