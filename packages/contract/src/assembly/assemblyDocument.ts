import type { Static } from '@sinclair/typebox';
import { Type } from '@sinclair/typebox';
import type { Assembly } from '@fennip/core/join';
import { PointSchema, coordinate } from '../recipe/target.ts';
import type { Same } from '../same.ts';

const side = Type.Integer({ minimum: 1, maximum: 1e6 });
const share = Type.Number({ minimum: 0, maximum: 1 });
const OutlineSchema = Type.Array(PointSchema, { minItems: 3, maxItems: 100_000 });
const strict = { additionalProperties: false };

/** Where a piece lies: turned about the corner of its scan, then moved. */
const PlacementSchema = Type.Object(
  { angle: Type.Number({ minimum: -100, maximum: 100 }), dx: coordinate, dy: coordinate },
  strict,
);

const AssembledPieceSchema = Type.Object(
  {
    /** Index into `scans`. */
    scan: Type.Integer({ minimum: 0, maximum: 99 }),
    /** In pixels of the scan. */
    paper: OutlineSchema,
    picture: OutlineSchema,
    holes: Type.Array(OutlineSchema, { maxItems: 1000 }),
    placement: Type.Union([PlacementSchema, Type.Null()]),
    gain: Type.Optional(
      Type.Array(Type.Number({ minimum: 0.01, maximum: 100 }), { minItems: 1, maxItems: 3 }),
    ),
  },
  strict,
);

const JoinSchema = Type.Object(
  {
    pieces: Type.Tuple([Type.Integer({ minimum: 0 }), Type.Integer({ minimum: 0 })]),
    confidence: share,
    length: Type.Number({ minimum: 0 }),
    misfit: Type.Number({ minimum: 0 }),
  },
  strict,
);

const ScanSchema = Type.Object(
  {
    /** The name of its file. */
    name: Type.String({ minLength: 1, maxLength: 1000 }),
    /** Of its file, so that no other is taken for it. */
    sha256: Type.String({ pattern: '^[0-9a-f]{64}$' }),
    width: side,
    height: side,
  },
  strict,
);

const assembly = {
  width: side,
  height: side,
  pieces: Type.Array(AssembledPieceSchema, { minItems: 1, maxItems: 250 }),
  joins: Type.Array(JoinSchema, { maxItems: 31_125 }),
};

export const AssemblySchema = Type.Object(assembly, strict);

/** An assembly as a file: what a picture was joined from, and how. */
export const AssemblyDocumentSchema = Type.Object(
  {
    format: Type.Literal('fennip-assembly'),
    version: Type.Literal(1),
    scans: Type.Array(ScanSchema, { minItems: 1, maxItems: 100 }),
    ...assembly,
  },
  strict,
);

export type AssemblyDocument = Static<typeof AssemblyDocumentSchema>;
export type JoinedScan = AssemblyDocument['scans'][number];

/** The document and core's own type must say the same; this line stops compiling when they do not. */
export type AssemblyAgrees = Same<Static<typeof AssemblySchema>, Assembly>;
export const ASSEMBLY_AGREES: AssemblyAgrees = true;

export const assemblyDocument = (assembly: Assembly, scans: readonly JoinedScan[]): AssemblyDocument => {
  const { width, height, pieces, joins } = assembly as Static<typeof AssemblySchema>;
  return { format: 'fennip-assembly', version: 1, scans: [...scans], width, height, pieces, joins };
};
