import type { Static } from '@sinclair/typebox';
import { Type } from '@sinclair/typebox';
import { FAULT_KINDS, LEFTOVER_ORIGINS } from '@fennip/core/fault';
import type { FaultKind, LeftoverOrigin } from '@fennip/core/fault';
import { DiscSchema } from './shapes.ts';
import { IdSchema } from './id.ts';
import { PointSchema, coordinate } from './target.ts';

export const PolaritySchema = Type.Union([Type.Literal('dark'), Type.Literal('bright')]);

export const FaultKindSchema = Type.Unsafe<FaultKind>({ type: 'string', enum: [...FAULT_KINDS] });

const share = Type.Number({ minimum: 0, maximum: 1 });

/** A fault of a picture's ledger, as an edit marks it by hand. */
export const NumberedFaultSchema = Type.Object(
  {
    id: IdSchema,
    number: Type.Integer({ minimum: 1, maximum: 1e9 }),
    kind: FaultKindSchema,
    polarity: PolaritySchema,
    x: coordinate,
    y: coordinate,
    r: Type.Number({ exclusiveMinimum: 0, maximum: 1e5 }),
    strength: share,
    softness: share,
    confidence: share,
    tone: Type.Optional(share),
    path: Type.Optional(Type.Array(PointSchema, { minItems: 2, maxItems: 10_000 })),
    outline: Type.Optional(Type.Array(PointSchema, { minItems: 3, maxItems: 10_000 })),
    isExact: Type.Optional(Type.Boolean()),
    origin: Type.Optional(Type.Unsafe<LeftoverOrigin>({ type: 'string', enum: [...LEFTOVER_ORIGINS] })),
    charted: Type.Optional(Type.Integer({ minimum: 1 })),
    known: Type.Optional(
      Type.Object(
        { veil: DiscSchema, depthError: Type.Number({ minimum: 0, maximum: 10 }) },
        { additionalProperties: false },
      ),
    ),
  },
  { additionalProperties: false },
);

/** A fault as a file of faults names it. Only its place and size must be there; the rest helps. */
const ListedFaultSchema = Type.Object({
  kind: Type.Optional(FaultKindSchema),
  polarity: Type.Optional(PolaritySchema),
  x: Type.Number(),
  y: Type.Number(),
  r: Type.Number({ exclusiveMinimum: 0 }),
  strength: Type.Optional(Type.Number()),
  softness: Type.Optional(Type.Number({ minimum: 0, maximum: 1 })),
  /** The course of a line; `r` is then half its width. */
  path: Type.Optional(Type.Array(PointSchema, { minItems: 2, maxItems: 10_000 })),
  /** The border of an area. */
  outline: Type.Optional(Type.Array(PointSchema, { minItems: 3, maxItems: 10_000 })),
  /** True if the outline holds all of it: nothing beyond is changed. */
  isExact: Type.Optional(Type.Boolean()),
  confidence: Type.Optional(Type.Number({ minimum: 0, maximum: 1 })),
});

export const FaultsFileSchema = Type.Object({
  picture: Type.Object({
    width: Type.Integer({ minimum: 1 }),
    height: Type.Integer({ minimum: 1 }),
    depth: Type.Optional(Type.Union([Type.Literal(8), Type.Literal(16)])),
  }),
  faults: Type.Array(ListedFaultSchema),
});

export type FaultsFile = Static<typeof FaultsFileSchema>;
