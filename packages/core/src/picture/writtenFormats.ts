/** What a format that pictures are written in can hold, and what can be set. */
export interface WrittenFormat {
  /** As people write it. */
  readonly label: string;
  /** Endings of its file names, without the dot; the first is the usual one. */
  readonly endings: readonly [string, ...string[]];
  /** Bits of a sample that it can hold. */
  readonly depths: readonly (8 | 16)[];
  /** What can be set beside depth, size and profile. */
  readonly options: readonly ('quality' | 'chroma' | 'compression')[];
  /** True if it holds the original, the mends and the finish apart. */
  readonly isLayered: boolean;
  /** The longest side it can hold, in pixels. */
  readonly longestSide: number;
  /** The most bytes of samples it can hold. */
  readonly mostBytes: number;
}

const LARGEST = 2 ** 31 - 1;

/** The formats that pictures are written in. A package of files holds how each is written, under the same name. */
export const WRITTEN_FORMATS = {
  jpeg: {
    label: 'JPEG',
    endings: ['jpg', 'jpeg'],
    depths: [8],
    options: ['quality', 'chroma'],
    isLayered: false,
    // The format's own limit (ITU-T T.81).
    longestSide: 65535,
    mostBytes: Infinity,
  },
  png: {
    label: 'PNG',
    endings: ['png'],
    depths: [8, 16],
    options: [],
    isLayered: false,
    longestSide: LARGEST,
    mostBytes: Infinity,
  },
  tiff: {
    label: 'TIFF',
    endings: ['tif', 'tiff'],
    depths: [8, 16],
    options: ['compression'],
    isLayered: false,
    longestSide: LARGEST,
    // Offsets have 32 bits, and the directory is written last (TIFF 6.0).
    mostBytes: 3.9e9,
  },
  webp: {
    label: 'WebP',
    endings: ['webp'],
    depths: [8],
    options: ['quality'],
    isLayered: false,
    // The format's own limit (RFC 9649).
    longestSide: 16383,
    mostBytes: Infinity,
  },
  ora: {
    label: 'OpenRaster',
    endings: ['ora'],
    depths: [8, 16],
    options: [],
    isLayered: true,
    longestSide: LARGEST,
    mostBytes: Infinity,
  },
} as const satisfies Readonly<Record<string, WrittenFormat>>;

export type WrittenFormatName = keyof typeof WRITTEN_FORMATS;

export const WRITTEN_FORMAT_NAMES = Object.keys(WRITTEN_FORMATS) as readonly WrittenFormatName[];

/** The description of a format. */
export const describeFormat = (name: WrittenFormatName): WrittenFormat => WRITTEN_FORMATS[name];
