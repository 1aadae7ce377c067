import type { Static } from '@sinclair/typebox';
import { Type } from '@sinclair/typebox';
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
    /** A picture of nothing, taken to show the dust. */
    isReference: Type.Optional(Type.Boolean()),
  },
  { additionalProperties: false, minProperties: 1 },
);
export type PictureChange = Static<typeof PictureChangeSchema>;

export const DeliveryRequestSchema = Type.Object(
  {
    format: Type.Union([
      Type.Literal('jpeg'),
      Type.Literal('png'),
      Type.Literal('tiff'),
      Type.Literal('webp'),
    ]),
    quality: Type.Integer({ minimum: 1, maximum: 100 }),
    depth: Type.Union([Type.Literal(8), Type.Literal(16)]),
  },
  { additionalProperties: false },
);
export type DeliveryRequest = Static<typeof DeliveryRequestSchema>;

export type DeliveryState = 'waiting' | 'running' | 'done' | 'failed';

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
