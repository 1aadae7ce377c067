/** All that is known of a kind of fault. */
export interface KindDescription {
  /** In one phrase, for documents. */
  readonly is: string;
  /** How a fault of it lies on the picture; a zone holds many places and is drawn as one. */
  readonly shape: 'spot' | 'line' | 'area' | 'zone';
  /** True if only a print can carry it: a camera frame has no emulsion and no paper. */
  readonly isOnPrintsOnly: boolean;
  /** Whether a finder looks for it in every examination, only when it is asked for, or the restorer marks it. */
  readonly found: 'always' | 'on demand' | 'never';
  /** True if the program mends it by itself where it is sure of it. */
  readonly isAutomatic: boolean;
  /** True if light may come through it, so that what lies under it can be recovered. */
  readonly letsLightThrough: boolean;
  /** True if nothing of the picture is seen where it lies. */
  readonly hidesPicture: boolean;
  /** False for a real thing that is taken away although it is no damage. */
  readonly isDamage: boolean;
  /** True if a single fault can be given this kind by hand, and it has a group of its own in the ledger. */
  readonly isSingle: boolean;
}

/** The kinds of flaw a picture can carry, in the order in which they are listed. */
export const KIND_DESCRIPTIONS = {
  speck: {
    is: 'a dust shadow, a lit particle, a grain of dust or a hole',
    shape: 'spot',
    isOnPrintsOnly: false,
    found: 'always',
    isAutomatic: true,
    letsLightThrough: true,
    hidesPicture: false,
    isDamage: true,
    isSingle: true,
  },
  fibre: {
    is: 'a hair or a thread',
    shape: 'line',
    isOnPrintsOnly: false,
    found: 'always',
    isAutomatic: true,
    letsLightThrough: true,
    hidesPicture: true,
    isDamage: true,
    isSingle: true,
  },
  scratch: {
    is: 'a line cut into the emulsion',
    shape: 'line',
    isOnPrintsOnly: true,
    found: 'always',
    isAutomatic: true,
    letsLightThrough: true,
    hidesPicture: true,
    isDamage: true,
    isSingle: true,
  },
  crease: {
    is: 'a fold of the paper',
    shape: 'line',
    isOnPrintsOnly: true,
    found: 'always',
    isAutomatic: true,
    letsLightThrough: true,
    hidesPicture: true,
    isDamage: true,
    isSingle: true,
  },
  tear: {
    is: 'a line or area torn open',
    shape: 'line',
    isOnPrintsOnly: true,
    found: 'always',
    isAutomatic: true,
    letsLightThrough: false,
    hidesPicture: true,
    isDamage: true,
    isSingle: true,
  },
  loss: {
    is: 'a piece of the emulsion that is gone',
    shape: 'area',
    isOnPrintsOnly: true,
    found: 'always',
    isAutomatic: false,
    letsLightThrough: false,
    hidesPicture: true,
    isDamage: true,
    isSingle: true,
  },
  stain: {
    is: 'a tint or a dried drop',
    shape: 'area',
    isOnPrintsOnly: true,
    found: 'always',
    isAutomatic: false,
    letsLightThrough: true,
    hidesPicture: false,
    isDamage: true,
    isSingle: true,
  },
  veil: {
    is: 'flare, haze or added light over a part',
    shape: 'zone',
    isOnPrintsOnly: false,
    found: 'never',
    isAutomatic: false,
    letsLightThrough: false,
    hidesPicture: false,
    isDamage: true,
    isSingle: false,
  },
  moire: {
    is: 'a weave that beats with the sensor',
    shape: 'zone',
    isOnPrintsOnly: false,
    found: 'never',
    isAutomatic: false,
    letsLightThrough: false,
    hidesPicture: false,
    isDamage: true,
    isSingle: false,
  },
  ghost: {
    is: 'something that moved between bracketed frames',
    shape: 'zone',
    isOnPrintsOnly: false,
    found: 'never',
    isAutomatic: false,
    letsLightThrough: false,
    hidesPicture: false,
    isDamage: true,
    isSingle: false,
  },
  smudge: {
    is: 'a place whose grain is gone',
    shape: 'area',
    isOnPrintsOnly: false,
    found: 'on demand',
    isAutomatic: false,
    letsLightThrough: false,
    hidesPicture: false,
    isDamage: true,
    isSingle: true,
  },
  intruder: {
    is: 'a real thing that is to go',
    shape: 'area',
    isOnPrintsOnly: false,
    found: 'on demand',
    isAutomatic: false,
    letsLightThrough: false,
    hidesPicture: false,
    isDamage: false,
    isSingle: true,
  },
} as const satisfies Readonly<Record<string, KindDescription>>;

export type FaultKind = keyof typeof KIND_DESCRIPTIONS;

export const FAULT_KINDS = Object.keys(KIND_DESCRIPTIONS) as readonly FaultKind[];

/** The description of a kind. */
export const describeKind = (kind: FaultKind): KindDescription => KIND_DESCRIPTIONS[kind];

/** The kinds for which something holds, in their order. */
export const kindsThat = (holds: (description: KindDescription) => boolean): readonly FaultKind[] =>
  FAULT_KINDS.filter((kind) => holds(describeKind(kind)));
