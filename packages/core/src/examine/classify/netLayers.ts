/** One convolution of 3 x 3 places, rectified, of which then the largest of every two by two places may be taken. */
export interface NetLayer {
  /** Places on each side. */
  readonly side: number;
  /** Channels in and out; a multiple of twelve comes out. */
  readonly inside: number;
  readonly outside: number;
  /** True if the largest of every four is taken: half as many places on each side go on. */
  readonly isHalved: boolean;
}

/** Places on each side of what a net looks at. */
export const LOOK_SIDE = 48;
/** Channels of each of them. */
export const LOOK_CHANNELS = 3;

/** Few and small: there are a few thousand examples, and hundreds of places to look at on a picture. */
export const NET_LAYERS: readonly NetLayer[] = [
  { side: LOOK_SIDE, inside: LOOK_CHANNELS, outside: 12, isHalved: true },
  { side: 24, inside: 12, outside: 12, isHalved: true },
  { side: 12, inside: 12, outside: 24, isHalved: false },
  { side: 12, inside: 24, outside: 24, isHalved: true },
];

/** Values that come out of a layer. */
const comingOut = ({ side, outside, isHalved }: NetLayer): number =>
  (isHalved ? side / 2 : side) ** 2 * outside;

/** Values that come out of the last layer. */
export const NET_SEEN = comingOut(NET_LAYERS[NET_LAYERS.length - 1]);
/** Values that all of them come to, and those that these and the further features come to. */
export const GATHERED = 24;
export const JUDGED = 16;
/** Features that are given beside the look. */
export const TOLD = 2;

/** Where a layer's numbers lie among all numbers of a net. */
export interface NetPart {
  readonly weights: number;
  readonly bias: number;
  readonly end: number;
}

const partAt = (at: number, inputs: number, outputs: number): NetPart => ({
  weights: at,
  bias: at + inputs * outputs,
  end: at + (inputs + 1) * outputs,
});

/** Inputs and outputs of each layer, convolutions first: 9 places and all channels go into each channel. */
export const NET_SHAPES: readonly (readonly [inputs: number, outputs: number])[] = [
  ...NET_LAYERS.map(({ inside, outside }) => [9 * inside, outside] as const),
  [NET_SEEN, GATHERED],
  [GATHERED + TOLD, JUDGED],
  [JUDGED, 1],
];

/** All numbers of a net, one part after the other: weights by input, then one for each output. */
export const NET_PARTS: readonly NetPart[] = NET_SHAPES.reduce<readonly NetPart[]>(
  (parts, [inputs, outputs]) => [...parts, partAt(parts.at(-1)?.end ?? 0, inputs, outputs)],
  [],
);

/** How many numbers a net has. */
export const NET_SIZE = NET_PARTS.at(-1)?.end ?? 0;
