import type { Static } from '@sinclair/typebox';
import { Type } from '@sinclair/typebox';
import type { NumberedFault } from '@fennip/core/fault';
import type { Mend } from '@fennip/core/mend';
import { tagged } from '../tagged.ts';
import { FinishSchema } from '../recipe/finish.ts';
import { IdSchema } from '../recipe/id.ts';
import { NameSchema } from './job.ts';
import { DeliveryRequestSchema } from './requests.ts';

const share = Type.Number({ minimum: 0, maximum: 1 });
const pictureId = Type.String({ minLength: 36, maxLength: 36 });
const pictures = Type.Array(pictureId, { minItems: 1, maxItems: 10_000, uniqueItems: true });

/**
 * Which faults are mended without asking: those at least as sure as `sure`. Those between `doubtful` and `sure`, and
 * those whose mend does not pass its own judgement, stay open and are doubts.
 */
const BoundsSchema = Type.Object({ sure: share, doubtful: share }, { additionalProperties: false });
export type Bounds = Static<typeof BoundsSchema>;

/** A step of a routine, with its values. */
const RoutineStepSchema = tagged('do', [
  Type.Object({ do: Type.Literal('examine'), sensitivity: share }, { additionalProperties: false }),
  /** What the camera's dust chart knows becomes part of the ledger. */
  Type.Object({ do: Type.Literal('chart') }, { additionalProperties: false }),
  Type.Object({ do: Type.Literal('mend'), sure: share, doubtful: share }, { additionalProperties: false }),
  Type.Object(
    {
      do: Type.Literal('sift'),
      /** Of the zone that bounds it, by name; the whole picture where it is missing. */
      zone: Type.Optional(NameSchema),
      radius: Type.Integer({ minimum: 1, maximum: 60 }),
      threshold: Type.Number({ minimum: 0, maximum: 40 }),
      polarity: Type.Union([Type.Literal('bright'), Type.Literal('dark'), Type.Literal('both')]),
      detail: Type.Number({ minimum: 0, maximum: 500 }),
      share: Type.Number({ minimum: 0, maximum: 1 }),
    },
    { additionalProperties: false },
  ),
  /** A step of the finish; its own zone counts for nothing, zones go by name. */
  Type.Object(
    { do: Type.Literal('finish'), step: FinishSchema, zone: Type.Optional(NameSchema) },
    { additionalProperties: false },
  ),
]);
export type RoutineStep = Static<typeof RoutineStepSchema>;

export const RoutineDocumentSchema = Type.Object(
  {
    format: Type.Literal('fennip-routine'),
    version: Type.Literal(1),
    name: NameSchema,
    steps: Type.Array(RoutineStepSchema, { minItems: 1, maxItems: 50 }),
  },
  { additionalProperties: false },
);
export type RoutineDocument = Static<typeof RoutineDocumentSchema>;

export interface Routine extends RoutineDocument {
  readonly id: string;
}

/** Work on many pictures that goes on in the background. */
export const RunRequestSchema = tagged('kind', [
  Type.Object(
    {
      kind: Type.Literal('series'),
      pictures,
      /** Finds each picture's own faults first; those that were examined keep their ledger. */
      examine: Type.Boolean(),
      sensitivity: share,
      /** Makes the dust chart of every camera among the pictures anew and carries it over to them. */
      chart: Type.Boolean(),
      mend: Type.Union([BoundsSchema, Type.Null()]),
    },
    { additionalProperties: false },
  ),
  Type.Object(
    {
      kind: Type.Literal('carry'),
      from: pictureId,
      /** Of the picture that is carried from, when it was asked for: it may be changed later. */
      revision: Type.Integer({ minimum: 0 }),
      pictures,
      sure: share,
      /** What is carried; mends where nothing is said. Fences go with either. */
      what: Type.Optional(
        Type.Array(Type.Union([Type.Literal('mends'), Type.Literal('finish')]), {
          minItems: 1,
          uniqueItems: true,
        }),
      ),
    },
    { additionalProperties: false },
  ),
  /** Faults that the eye has decided about, each mended whatever its confidence. */
  Type.Object(
    {
      kind: Type.Literal('faults'),
      pictures,
      faults: Type.Array(
        Type.Object({ picture: pictureId, fault: IdSchema }, { additionalProperties: false }),
        { minItems: 1, maxItems: 100_000 },
      ),
    },
    { additionalProperties: false },
  ),
  Type.Object(
    {
      kind: Type.Literal('routine'),
      name: NameSchema,
      steps: Type.Array(RoutineStepSchema, { minItems: 1, maxItems: 50 }),
      pictures,
    },
    { additionalProperties: false },
  ),
  Type.Object(
    {
      kind: Type.Literal('delivery'),
      pictures,
      delivery: DeliveryRequestSchema,
      /** The name of each file without its ending: `{name}`, `{number}` and `{job}` are filled in. */
      pattern: Type.String({ minLength: 1, maxLength: 120 }),
    },
    { additionalProperties: false },
  ),
]);
export type RunRequest = Static<typeof RunRequestSchema>;
export type RunKind = RunRequest['kind'];

export type RunState = 'running' | 'paused' | 'stopped' | 'done';

export const RunSteerSchema = Type.Object(
  { to: Type.Union([Type.Literal('pause'), Type.Literal('resume'), Type.Literal('stop')]) },
  { additionalProperties: false },
);
export type RunSteer = Static<typeof RunSteerSchema>;

/** What a piece of a run does. */
export type PieceWork = 'examine' | 'chart' | 'mend' | 'carry' | 'routine' | 'delivery';

export type PieceState = 'waiting' | 'running' | 'done' | 'skipped' | 'failed';

/** A place that a run left to the restorer, and why. */
export interface Doubt {
  readonly fault: string;
  readonly confidence: number;
  readonly because: 'not sure' | 'mend does not pass';
}

/** A doubt that is still open, on its picture. */
export interface OpenDoubt extends Doubt {
  readonly pictureId: string;
  /** Its number on the camera's dust chart; it is then one doubt for all the frames that show the place. */
  readonly charted: number | null;
  /** How many frames that are. */
  readonly frames: number;
}

/** A decision about a place of a chart: it holds for all frames of the job. */
export const ChartedDecisionSchema = Type.Object(
  {
    picture: pictureId,
    charted: Type.Integer({ minimum: 1 }),
    to: Type.Union([Type.Literal('mend'), Type.Literal('dismiss')]),
  },
  { additionalProperties: false },
);
export type ChartedDecision = Static<typeof ChartedDecisionSchema>;

/** What a mend of a fault would be; nothing is laid down. */
export interface ProposedMend {
  /** The revision of the picture that it was made on. */
  readonly revision: number;
  readonly fault: Pick<NumberedFault, 'id' | 'number' | 'x' | 'y'>;
  readonly mend: Mend;
  /** True if it passes its own judgement. */
  readonly passes: boolean;
  /** Half the side of the square that is shown, in pixels. */
  readonly half: number;
  /** The place before and with the mend, as addresses of images. */
  readonly before: string;
  readonly after: string;
}

/** What a piece of work came to. */
export interface PieceOutcome {
  /** Mends that were laid. */
  readonly mended?: number;
  readonly found?: number;
  /** Places of a chart that do not show in this picture, and other things left out, by reason. */
  readonly left?: Readonly<Record<string, number>>;
  readonly doubts?: readonly Doubt[];
  readonly chart?: string;
  readonly delivery?: string;
  readonly fileName?: string;
  /** Why it was skipped, or what went wrong. */
  readonly reason?: string;
}

export interface RunPiece {
  readonly number: number;
  readonly work: PieceWork;
  readonly pictureId: string | null;
  readonly state: PieceState;
  readonly outcome: PieceOutcome;
}

export interface Run {
  readonly id: string;
  readonly jobId: string;
  readonly kind: RunKind;
  readonly request: RunRequest;
  readonly state: RunState;
  readonly createdAt: string;
  readonly pieces: number;
  readonly done: number;
  readonly skipped: number;
  readonly failed: number;
  readonly mended: number;
  readonly doubts: number;
  /** What is being done now. */
  readonly work: PieceWork | null;
  /** Pieces a minute since it began; none before the first is done. */
  readonly perMinute: number | null;
  readonly secondsLeft: number | null;
}
