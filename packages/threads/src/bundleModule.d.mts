/**
 * Brings a TypeScript module and what it needs of our packages into one file of JavaScript, at once and for good: for a thread,
 * whose modules do not ask where they lie.
 *
 * @returns the path of the bundle
 */
export function bundleModule(module: URL): string;

/** The same for a whole program: its modules still find what lies beside their sources. */
export function bundleProgram(module: URL): Promise<string>;
