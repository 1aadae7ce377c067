import { fromBase64 } from './base64.ts';
import { KERNEL_CODE } from './kernelCode.ts';
import type { KernelLoops } from './kernelLoops.ts';

/** The part of the engine's own interface that is used; it is the same in browsers and elsewhere. */
interface Engine {
  readonly WebAssembly: {
    readonly Module: new (code: Uint8Array) => object;
    readonly Instance: new (module: object) => { readonly exports: unknown };
  };
}

let made: KernelLoops | null = null;

/** The compiled inner loops. Their memory is every caller's in turn: what is laid there stands until the next call. */
export function kernels(): KernelLoops {
  if (made) return made;
  const { WebAssembly } = globalThis as unknown as Engine;
  const module = new WebAssembly.Module(fromBase64(KERNEL_CODE) ?? new Uint8Array());
  made = new WebAssembly.Instance(module).exports as KernelLoops;
  return made;
}

/** Bytes of a 32-bit value. */
export const VALUE = Float32Array.BYTES_PER_ELEMENT;

type Samples = Float32Array | Float64Array | Int16Array | Int32Array | Uint8Array | Uint16Array;

/** What the module keeps for itself lies before this place. */
const BASE = 1024;
const ALIGNED = 16;

/** Where the first thing is laid: behind what is held. */
let heldTo = BASE;
/** The first place behind what was laid out last. */
let laidTo = BASE;

function lay(parts: readonly (Samples | number)[], from: number): number[] {
  const { memory, reserve } = kernels();
  let end = from;
  const places = parts.map((part) => {
    const place = end;
    const bytes = typeof part === 'number' ? part : part.byteLength;
    end += Math.ceil(bytes / ALIGNED) * ALIGNED;
    return place;
  });
  // Four samples are read where one is left.
  reserve(end + ALIGNED);
  laidTo = end;
  const bytes = new Uint8Array(memory.buffer);
  parts.forEach((part, k) => {
    if (typeof part !== 'number')
      bytes.set(new Uint8Array(part.buffer, part.byteOffset, part.byteLength), places[k]);
  });
  return places;
}

/**
 * Lays samples into the memory of the kernels, one after the other.
 *
 * @param parts samples, or a number of bytes to be kept free; what lies there is what lay there before
 * @returns where each begins
 */
export const layOut = (parts: readonly (Samples | number)[]): number[] => lay(parts, heldTo);

/** Lays more behind what was laid out last, which stays. */
export const layBehind = (parts: readonly (Samples | number)[]): number[] => lay(parts, laidTo);

/**
 * Holds samples in the memory of the kernels while something is done with them: what is laid out meanwhile lies behind
 * them. Copying large planes in and out for each step takes longer than most steps.
 *
 * @param parts as for {@link layOut}
 * @param work must be done when it returns
 */
export function holding<T>(parts: readonly (Samples | number)[], work: (...places: number[]) => T): T {
  const before = heldTo;
  const places = lay(parts, before);
  heldTo = laidTo;
  try {
    return work(...places);
  } finally {
    heldTo = before;
  }
}

/** Samples where they lie in the memory of the kernels: good until more is laid out. */
export const floatsAt = (place: number, count: number): Float32Array =>
  new Float32Array(kernels().memory.buffer, place, count);

/** Makes bytes 0. */
export const clear = (place: number, bytes: number): void => {
  new Uint8Array(kernels().memory.buffer, place, bytes).fill(0);
};

interface Kind<Kept> {
  new (buffer: ArrayBuffer, place: number, count: number): { slice(): Kept };
}

/** Takes samples out of the memory of the kernels. */
export const take = <Kept>(kind: Kind<Kept>, place: number, count: number): Kept =>
  new kind(kernels().memory.buffer, place, count).slice();

export const takeFloats = (place: number, count: number): Float32Array => take(Float32Array, place, count);
