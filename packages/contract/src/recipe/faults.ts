import type { Static } from '@sinclair/typebox';
import { Type } from '@sinclair/typebox';
import { PointSchema } from './target.ts';
import { FAULT_KINDS } from '@fennip/core';
import type { FaultKind } from '@fennip/core';

export const PolaritySchema = Type.Union([Type.Literal('dark'), Type.Literal('bright')]);

/** A fault as a file of faults names it. Only its place and size must be there; the rest helps. */
export const ListedFaultSchema = Type.Object({
  kind: Type.Optional(Type.Unsafe<FaultKind>({ type: 'string', enum: [...FAULT_KINDS] })),
  polarity: Type.Optional(PolaritySchema),
  x: Type.Number(),
  y: Type.Number(),
  r: Type.Number({ exclusiveMinimum: 0 }),
  strength: Type.Optional(Type.Number()),
  softness: Type.Optional(Type.Number({ minimum: 0, maximum: 1 })),
  /** The course of a line; `r` is then half its width. */
  path: Type.Optional(Type.Array(PointSchema, { minItems: 2, maxItems: 10_000 })),
  confidence: Type.Optional(Type.Number({ minimum: 0, maximum: 1 })),
});

export type ListedFault = Static<typeof ListedFaultSchema>;

export const FaultsFileSchema = Type.Object({
  picture: Type.Object({
    width: Type.Integer({ minimum: 1 }),
    height: Type.Integer({ minimum: 1 }),
    depth: Type.Optional(Type.Union([Type.Literal(8), Type.Literal(16)])),
  }),
  faults: Type.Array(ListedFaultSchema),
});

export type FaultsFile = Static<typeof FaultsFileSchema>;
