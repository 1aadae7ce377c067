import { KERNEL_SIDE, NOISE_BANDS } from '@fennip/core/grain';
import { BECAUSE, CORRECTIONS, MOST_RELIEF, PATCH_VARIANTS, RELIEF_REACH } from '@fennip/core/mend';
import { Type } from '@sinclair/typebox';
import { IdSchema } from './id.ts';
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

const PaintStrokeSchema = Type.Object(
  {
    shape: TargetSchema,
    edge: Type.Number({ minimum: 0, maximum: 1000 }),
    amount: Type.Number({ minimum: 0, maximum: 1 }),
    lays: Type.Union([Type.Literal('in'), Type.Literal('out')]),
  },
  { additionalProperties: false },
);

/** What every mend has, whatever its method. */
const base = {
  id: IdSchema,
  target: TargetSchema,
  margin: Type.Number({ minimum: 0, maximum: 1000 }),
  edge: Type.Number({ minimum: 0, maximum: 1000 }),
  share: Type.Number({ minimum: 0, maximum: 1 }),
  on: Type.Boolean(),
  only: Type.Optional(Type.Union([Type.Literal('lighten'), Type.Literal('darken')])),
  zone: Type.Optional(IdSchema),
  fault: Type.Optional(IdSchema),
  carried: Type.Optional(
    Type.Object(
      { picture: Type.String({ minLength: 1, maxLength: 1000 }), mend: IdSchema },
      { additionalProperties: false },
    ),
  ),
  why: Type.Optional(
    Type.Object(
      {
        because: Type.Union(BECAUSE.map((cause) => Type.Literal(cause))),
        recoverability: Type.Optional(Type.Number({ minimum: 0, maximum: 1 })),
      },
      { additionalProperties: false },
    ),
  ),
  paint: Type.Optional(Type.Array(PaintStrokeSchema, { maxItems: 2000 })),
  locked: Type.Optional(Type.Boolean()),
  name: Type.Optional(Type.String({ minLength: 1, maxLength: 80 })),
};

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

const TreatmentSchemas = [
  Type.Object(
    {
      ...base,
      method: Type.Literal('return'),
      depth: Type.Union([Type.Literal(8), Type.Literal(16)]),
      values: Type.String({ pattern: '^[A-Za-z0-9+/]*={0,2}$', maxLength: 16_000_000 }),
    },
    { additionalProperties: false },
  ),
  Type.Object(
    {
      ...base,
      method: Type.Literal('sift'),
      radius: Type.Integer({ minimum: 1, maximum: 100 }),
      threshold: Type.Number({ minimum: 0, maximum: 1000 }),
      polarity: Type.Union([Type.Literal('bright'), Type.Literal('dark'), Type.Literal('both')]),
      detail: Type.Number({ minimum: 0, maximum: 400 }),
      noise,
    },
    { additionalProperties: false },
  ),
  Type.Object(
    {
      ...base,
      method: Type.Literal('regrain'),
      strength: Type.Number({ minimum: 0, maximum: 2 }),
      grain: GrainSchema,
    },
    { additionalProperties: false },
  ),
  Type.Object(
    {
      ...base,
      method: Type.Literal('tone'),
      exposure: Type.Number({ minimum: -4, maximum: 4 }),
      range: Type.Union([
        Type.Literal('all'),
        Type.Literal('shadows'),
        Type.Literal('midtones'),
        Type.Literal('highlights'),
      ]),
      contrast: Type.Number({ minimum: -1, maximum: 2 }),
      contrastSize: Type.Number({ minimum: 0.5, maximum: 100 }),
      hue: Type.Number({ minimum: -180, maximum: 180 }),
      saturation: Type.Number({ minimum: 0, maximum: 3 }),
      lightness: Type.Number({ minimum: -100, maximum: 100 }),
    },
    { additionalProperties: false },
  ),
  Type.Object(
    {
      ...base,
      method: Type.Literal('soften'),
      sigma: Type.Number({ minimum: 0.1, maximum: 100 }),
      along: Type.Union([Type.Number({ minimum: -7, maximum: 7 }), Type.Null()]),
    },
    { additionalProperties: false },
  ),
  Type.Object(
    { ...base, method: Type.Literal('match'), from: LabStatisticsSchema, to: LabStatisticsSchema },
    { additionalProperties: false },
  ),
  Type.Object(
    {
      ...base,
      method: Type.Literal('shift'),
      dx: Type.Integer({ minimum: -500, maximum: 500 }),
      dy: Type.Integer({ minimum: -500, maximum: 500 }),
      keeps: Type.Union([Type.Literal('lighter'), Type.Literal('darker')]),
    },
    { additionalProperties: false },
  ),
  Type.Object(
    {
      ...base,
      method: Type.Literal('draw'),
      colour: Type.Array(Type.Number({ minimum: 0, maximum: 1 }), { minItems: 1, maxItems: 3 }),
      fade: Type.Number({ minimum: 0, maximum: 1000 }),
      strength: Type.Number({ minimum: 0, maximum: 2 }),
      grain: GrainSchema,
    },
    { additionalProperties: false },
  ),
] as const;

export const MendSchema = tagged('method', [
  Type.Object(
    {
      ...base,
      method: Type.Literal('recover'),
      veil: VeilSchema,
      source: Type.Union([SourceSchema, Type.Null()]),
      avoid: Type.Optional(MaskSchema),
    },
    { additionalProperties: false },
  ),
  Type.Object(
    { ...base, method: Type.Literal('heal'), source: Type.Union([SourceSchema, Type.Null()]) },
    { additionalProperties: false },
  ),
  Type.Object(
    {
      ...base,
      method: Type.Literal('clone'),
      source: SourceSchema,
      reads: Type.Union([Type.Literal('mended'), Type.Literal('original')]),
      laying: Type.Union([Type.Literal('along'), Type.Literal('fixed')]),
      buildUp: Type.Boolean(),
    },
    { additionalProperties: false },
  ),
  Type.Object(
    {
      ...base,
      method: Type.Literal('bridge'),
      relief: Type.Optional(
        Type.Array(Type.Number({ minimum: -MOST_RELIEF, maximum: MOST_RELIEF }), {
          minItems: 3,
          maxItems: 2 * RELIEF_REACH + 1,
        }),
      ),
      avoid: Type.Optional(MaskSchema),
    },
    { additionalProperties: false },
  ),
  Type.Object(
    {
      ...base,
      method: Type.Literal('rebuild'),
      seed: Type.Integer({ minimum: 0, maximum: 0xffffffff }),
      guides: Type.Array(
        Type.Object(
          { points: Type.Array(PointSchema, { minItems: 2, maxItems: 1000 }) },
          { additionalProperties: false },
        ),
        { maxItems: 200 },
      ),
      from: Type.Optional(TargetSchema),
      avoid: Type.Optional(MaskSchema),
      variants: Type.Optional(
        Type.Array(Type.Union(PATCH_VARIANTS.map((variant) => Type.Literal(variant))), {
          uniqueItems: true,
        }),
      ),
    },
    { additionalProperties: false },
  ),
  ...TreatmentSchemas,
]);
