/** The module as text: base64, in lines of a TypeScript file. */
export function compiledKernels(): Promise<string>;
