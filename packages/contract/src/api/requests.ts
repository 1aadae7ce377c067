import { NATURES } from '@fennip/core/examine';
import type { Static } from '@sinclair/typebox';
import { Type } from '@sinclair/typebox';
import { DELIVERY_FORMATS } from './deliveryFormats.ts';
import { NameSchema } from './job.ts';
import { EditSchema } from '../recipe/edit.ts';
import { PolaritySchema } from '../recipe/faults.ts';

const revision = Type.Integer({ minimum: 0 });

export const EditRequestSchema = Type.Object({ revision, edit: EditSchema }, { additionalProperties: false });
export type EditRequest = Static<typeof EditRequestSchema>;

export const TurnBackSchema = Type.Object({ revision }, { additionalProperties: false });
export type TurnBack = Static<typeof TurnBackSchema>;

export const ExamineRequestSchema = Type.Object(
  {
    sensitivity: Type.Number({ minimum: 0, maximum: 1 }),
    polarities: Type.Array(PolaritySchema, { minItems: 1, maxItems: 2, uniqueItems: true }),
    /** What is less visible in the whole picture is not listed; the usual bound where it is left out. */
    leastVisibility: Type.Optional(Type.Number({ minimum: 0, maximum: 1 })),
  },
  { additionalProperties: false },
);
export type ExamineRequest = Static<typeof ExamineRequestSchema>;

/** What can be said about a picture as a whole; what is left out stays. */
export const PictureChangeSchema = Type.Object(
  {
    setAside: Type.Optional(Type.Boolean()),
    /** Pixels per inch, where the file says it wrong or not at all. */
    density: Type.Optional(Type.Number({ minimum: 1, maximum: 20_000 })),
    /** The camera it was taken with, where the file does not say or says it wrong. */
    camera: Type.Optional(NameSchema),
    /** A change examines the picture anew, if it was examined; what was decided stays. */
    nature: Type.Optional(Type.Union(NATURES.map((nature) => Type.Literal(nature)))),
    /** A picture of nothing, taken to show the dust. */
    isReference: Type.Optional(Type.Boolean()),
  },
  { additionalProperties: false, minProperties: 1 },
);
export type PictureChange = Static<typeof PictureChangeSchema>;

const oneOf = <Value extends string>(...values: readonly Value[]) =>
  Type.Union(values.map((value) => Type.Literal(value)));

const DeliverySizeSchema = Type.Union([
  Type.Object({ kind: Type.Literal('full') }, { additionalProperties: false }),
  Type.Object(
    { kind: Type.Literal('pixels'), longest: Type.Integer({ minimum: 16, maximum: 65535 }) },
    { additionalProperties: false },
  ),
  Type.Object(
    {
      kind: Type.Literal('paper'),
      /** Inches. */
      longer: Type.Number({ minimum: 0.5, maximum: 200 }),
      shorter: Type.Number({ minimum: 0.5, maximum: 200 }),
      ppi: Type.Integer({ minimum: 30, maximum: 2400 }),
    },
    { additionalProperties: false },
  ),
]);

/** What is left out is as it was in the original. */
export const DeliveryRequestSchema = Type.Object(
  {
    /** `ora` holds the original, the mends and the finish in layers (OpenRaster). */
    format: oneOf(...DELIVERY_FORMATS),
    quality: Type.Integer({ minimum: 1, maximum: 100 }),
    depth: Type.Union([Type.Literal(8), Type.Literal(16)]),
    /** JPEG: colour at full resolution, or at half; by quality where it is left out. */
    chroma: Type.Optional(oneOf('4:4:4', '4:2:0')),
    /** TIFF; deflate where it is left out. */
    compression: Type.Optional(oneOf('deflate', 'lzw')),
    size: Type.Optional(DeliverySizeSchema),
    profile: Type.Optional(oneOf('own', 'srgb', 'display-p3', 'grey')),
    /** What becomes of colours that another profile cannot show. */
    intent: Type.Optional(oneOf('relative', 'perceptual')),
    /** True if Exif, XMP and IPTC stay behind. */
    isDataStripped: Type.Optional(Type.Boolean()),
    /** Without the finish, upright and whole: to be worked on elsewhere and brought back. */
    isUnfinished: Type.Optional(Type.Boolean()),
    /** True if the file's history says what was restored. */
    isNoted: Type.Optional(Type.Boolean()),
  },
  { additionalProperties: false },
);
export type DeliveryRequest = Static<typeof DeliveryRequestSchema>;

export type DeliveryState = 'waiting' | 'running' | 'done' | 'failed' | 'stopped';

export interface Delivery extends DeliveryRequest {
  readonly id: string;
  readonly pictureId: string;
  readonly state: DeliveryState;
  readonly problem: string | null;
  readonly fileName: string;
  readonly sizeBytes: number | null;
  readonly mends: number;
  readonly createdAt: string;
}

/** A file that a picture left as, to be worked on elsewhere: what comes back under its name is that picture. */
export interface AwayFile {
  readonly fileName: string;
  readonly pictureId: string;
  readonly pictureName: string;
}

/** What became of a picture that was brought back from elsewhere. */
export interface TakenBack {
  /** How much of the picture changed, 0 to 1. */
  readonly share: number;
  /** Ids of the mends that lie under what changed. */
  readonly covered: readonly string[];
}
