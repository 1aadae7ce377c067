import type { Static } from '@sinclair/typebox';
import { Type } from '@sinclair/typebox';
import type { Recipe } from '@fennip/core/recipe';
import type { Same } from '../same.ts';
import { FenceSchema } from './fence.ts';
import { FinishSchema } from './finish.ts';
import { MendSchema } from './mend.ts';

const side = Type.Integer({ minimum: 1, maximum: 1e6 });

export const RecipeSchema = Type.Object(
  {
    format: Type.Literal('fennip-recipe'),
    version: Type.Literal(1),
    picture: Type.Object(
      { width: side, height: side, sha256: Type.Optional(Type.String({ pattern: '^[0-9a-f]{64}$' })) },
      { additionalProperties: false },
    ),
    fences: Type.Optional(Type.Array(FenceSchema, { maxItems: 1000 })),
    mends: Type.Array(MendSchema),
    finish: Type.Optional(Type.Array(FinishSchema, { maxItems: 200 })),
  },
  { additionalProperties: false },
);

/** The document and core's own type must say the same; this line stops compiling when they do not. */
export type RecipeAgrees = Same<Static<typeof RecipeSchema>, Recipe>;
export const RECIPE_AGREES: RecipeAgrees = true;
