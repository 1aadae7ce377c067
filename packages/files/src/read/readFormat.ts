/** A format that pictures are read from. */
export interface ReadFormat {
  /** As people write it. */
  readonly label: string;
  /** True if a file that begins with these bytes is of this format. */
  matches(head: Buffer): boolean;
  /** The capture data of a file, where the decoder does not hand it over. */
  exifIn?(path: string): Buffer | undefined;
  /** True if a resolution says nothing unless the file names its unit. */
  readonly needsDensityUnit?: true;
}

/** True if a file begins with these bytes. */
export const startsWith = (head: Buffer, bytes: readonly number[]): boolean =>
  bytes.every((byte, i) => head[i] === byte);

/** Bytes of a file as Latin letters. */
export const ascii = (head: Buffer, from: number, to: number): string => head.toString('latin1', from, to);
