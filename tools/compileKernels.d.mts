/** The module as text: base64, in lines of a TypeScript file. */
export function compiledKernels(): Promise<string>;
/** What the module offers, as a TypeScript file. */
export function kernelLoops(): Promise<string>;
