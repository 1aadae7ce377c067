/** The library ships no types of its own in this version; it is the common interface. */
declare module 'onnxruntime-node' {
  export * from 'onnxruntime-common';
}
