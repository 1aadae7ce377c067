import { KERNEL_SIDE, NOISE_BANDS } from '@fennip/core/grain';
import { CORRECTIONS, MOST_RELIEF, PATCH_VARIANTS, RELIEF_REACH } from '@fennip/core/mend';
import type { ShapeName } from '@fennip/core/describe';
import type { TSchema } from '@sinclair/typebox';
import { Type } from '@sinclair/typebox';
import { tagged } from '../tagged.ts';
import { MaskSchema, PointSchema, TargetSchema } from './target.ts';

const shift = Type.Number({ minimum: -1e5, maximum: 1e5 });

const PullSchema = Type.Object({ dx: shift, dy: shift }, { additionalProperties: false });

const SourceSchema = Type.Object(
  {
    dx: shift,
    dy: shift,
    mirror: Type.Optional(Type.Boolean()),
    turn: Type.Optional(Type.Number({ minimum: -7, maximum: 7 })),
    scale: Type.Optional(Type.Number({ minimum: 0.05, maximum: 20 })),
    warp: Type.Optional(
      Type.Object(
        {
          width: Type.Number({ minimum: 1, maximum: 1e5 }),
          height: Type.Number({ minimum: 1, maximum: 1e5 }),
          by: Type.Tuple([PullSchema, PullSchema, PullSchema, PullSchema]),
        },
        { additionalProperties: false },
      ),
    ),
  },
  { additionalProperties: false },
);

const coordinate = Type.Number({ minimum: -1e6, maximum: 1e6 });

/** A veil in the shape of a disc. */
export const DiscSchema = Type.Object(
  {
    kind: Type.Literal('disc'),
    x: coordinate,
    y: coordinate,
    r: Type.Number({ exclusiveMinimum: 0, maximum: 1e5 }),
    softness: Type.Number({ minimum: 0, maximum: 1 }),
    stretch: Type.Number({ minimum: 1, maximum: 10 }),
    angle: Type.Number({ minimum: -7, maximum: 7 }),
    depth: Type.Number({ minimum: 0, exclusiveMaximum: 1 }),
    light: Type.Union([
      Type.Array(Type.Number({ minimum: 0, maximum: 100 }), { minItems: 1, maxItems: 3 }),
      Type.Null(),
    ]),
  },
  { additionalProperties: false },
);

const TintSchema = Type.Object(
  {
    kind: Type.Literal('tint'),
    left: Type.Integer(),
    top: Type.Integer(),
    step: Type.Number({ exclusiveMinimum: 0, maximum: 1e5 }),
    columns: Type.Integer({ minimum: 2, maximum: 1000 }),
    rows: Type.Integer({ minimum: 2, maximum: 1000 }),
    density: Type.Array(Type.Array(Type.Number({ minimum: -20, maximum: 20 }), { minItems: 4 }), {
      minItems: 1,
      maxItems: 3,
    }),
  },
  { additionalProperties: false },
);

const StainSchema = Type.Object(
  {
    kind: Type.Literal('stain'),
    depths: Type.Array(Type.Number({ minimum: -100, maximum: 1e5 }), { minItems: 2, maxItems: 200 }),
    density: Type.Array(Type.Array(Type.Number({ minimum: -20, maximum: 20 }), { minItems: 2 }), {
      minItems: 1,
      maxItems: 3,
    }),
  },
  { additionalProperties: false },
);

const LineSchema = Type.Object(
  {
    kind: Type.Literal('line'),
    points: Type.Array(PointSchema, { minItems: 2, maxItems: 20_000 }),
    widths: Type.Array(Type.Number({ exclusiveMinimum: 0, maximum: 1000 }), {
      minItems: 2,
      maxItems: 20_000,
    }),
    softness: Type.Number({ minimum: 0, maximum: 100 }),
    depth: Type.Number({ minimum: 0, exclusiveMaximum: 1 }),
    light: Type.Array(Type.Number({ minimum: 0, maximum: 100 }), { minItems: 1, maxItems: 3 }),
    correction: Type.Array(Type.Number({ minimum: -1, maximum: 1 }), { maxItems: CORRECTIONS }),
    doubt: Type.Object(
      { amount: Type.Number({ minimum: 0, maximum: 1 }), beside: Type.Number({ minimum: 0, maximum: 100 }) },
      { additionalProperties: false },
    ),
  },
  { additionalProperties: false },
);

const VeilSchema = tagged('kind', [DiscSchema, LineSchema, TintSchema, StainSchema]);

const noise = Type.Array(Type.Number({ minimum: 0, maximum: 1 }), {
  minItems: NOISE_BANDS,
  maxItems: NOISE_BANDS,
});

const GrainSchema = Type.Object(
  {
    noise,
    kernel: Type.Array(Type.Number({ minimum: -1, maximum: 1 }), {
      minItems: KERNEL_SIDE ** 2,
      maxItems: KERNEL_SIDE ** 2,
    }),
    mix: Type.Array(Type.Array(Type.Number({ minimum: -100, maximum: 100 }), { minItems: 1, maxItems: 3 }), {
      minItems: 1,
      maxItems: 3,
    }),
  },
  { additionalProperties: false },
);

const three = Type.Tuple([Type.Number(), Type.Number(), Type.Number()]);
const LabStatisticsSchema = Type.Object({ mean: three, spread: three }, { additionalProperties: false });

const ToneSchema = Type.Object(
  {
    black: Type.Number({ minimum: 0, maximum: 1 }),
    white: Type.Number({ minimum: 0, maximum: 1 }),
    gamma: Type.Number({ minimum: 0.05, maximum: 20 }),
  },
  { additionalProperties: false },
);

/** The schema of each named shape that a described field can hold. */
export const SHAPES: Readonly<Record<ShapeName, TSchema>> = {
  target: TargetSchema,
  mask: MaskSchema,
  source: SourceSchema,
  'source or null': Type.Union([SourceSchema, Type.Null()]),
  veil: VeilSchema,
  relief: Type.Array(Type.Number({ minimum: -MOST_RELIEF, maximum: MOST_RELIEF }), {
    minItems: 3,
    maxItems: 2 * RELIEF_REACH + 1,
  }),
  guides: Type.Array(
    Type.Object(
      { points: Type.Array(PointSchema, { minItems: 2, maxItems: 1000 }) },
      { additionalProperties: false },
    ),
    { maxItems: 200 },
  ),
  variants: Type.Array(Type.Union(PATCH_VARIANTS.map((variant) => Type.Literal(variant))), {
    uniqueItems: true,
  }),
  grain: GrainSchema,
  'noise by brightness': noise,
  'colour statistics': LabStatisticsSchema,
  colour: Type.Array(Type.Number({ minimum: 0, maximum: 1 }), { minItems: 1, maxItems: 3 }),
  'packed values': Type.String({ pattern: '^[A-Za-z0-9+/]*={0,2}$', maxLength: 16_000_000 }),
  tones: Type.Array(ToneSchema, { minItems: 1, maxItems: 3 }),
  'curve points': Type.Array(PointSchema, { minItems: 2, maxItems: 50 }),
};
