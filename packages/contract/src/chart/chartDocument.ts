import type { Static } from '@sinclair/typebox';
import { Type } from '@sinclair/typebox';
import type { ChartEntry, DustChart, Particle } from '@fennip/core/chart';
import { REFERENCE_F, shadowAt } from '@fennip/core/chart';

const finite = Type.Number({ minimum: -1e6, maximum: 1e6 });
const share = Type.Number({ minimum: 0, maximum: 1 });
const fNumber = Type.Union([Type.Number({ minimum: 0.5, maximum: 128 }), Type.Null()]);

const EvidenceSchema = Type.Object({
  /** Index into `frames`. */
  frame: Type.Integer({ minimum: 0 }),
  evidence: finite,
  depth: Type.Number({ minimum: -1, maximum: 1 }),
  error: Type.Number({ minimum: 0, maximum: 10 }),
});

/** A dirty place of a sensor. Pixels of the level sensor; the centre of the first pixel is (0.5, 0.5). */
const ChartFaultSchema = Type.Object({
  kind: Type.Literal('speck'),
  polarity: Type.Literal('dark'),
  number: Type.Integer({ minimum: 1 }),
  x: finite,
  y: finite,
  /** Radius of the shadow at f/16. */
  r: Type.Number({ exclusiveMinimum: 0, maximum: 1e4 }),
  softness: share,
  /** Share of the light that is taken at f/16. */
  depth: share,
  confidence: share,
  z: finite,
  particle: Type.Object({
    r: Type.Number({ exclusiveMinimum: 0, maximum: 1e4 }),
    border: Type.Number({ minimum: 0, maximum: 1e5 }),
    depth: share,
    stretch: Type.Number({ minimum: 1, maximum: 10 }),
    angle: Type.Number({ minimum: -7, maximum: 7 }),
  }),
  /** What each f-number showed: the mean of its frames. */
  depths: Type.Array(
    Type.Object({
      fNumber,
      depth: Type.Number({ minimum: -1, maximum: 1 }),
      error: Type.Number({ minimum: 0, maximum: 10 }),
      frames: Type.Integer({ minimum: 1 }),
    }),
  ),
  evidence: Type.Array(EvidenceSchema),
});

/** A dust chart as a file. */
export const ChartDocumentSchema = Type.Object({
  format: Type.Literal('fennip-dust-chart'),
  version: Type.Literal(1),
  sensor: Type.Object({
    width: Type.Integer({ minimum: 1, maximum: 1e6 }),
    height: Type.Integer({ minimum: 1, maximum: 1e6 }),
  }),
  frames: Type.Array(Type.Object({ name: Type.String({ maxLength: 1000 }), fNumber })),
  faults: Type.Array(ChartFaultSchema, { maxItems: 10_000 }),
});

export type ChartFault = Static<typeof ChartFaultSchema>;
export type ChartDocument = Static<typeof ChartDocumentSchema>;
export type DepthAt = ChartFault['depths'][number];

/** A frame of a chart, as its document names it. */
export type NamedFrame = ChartDocument['frames'][number];

/** The depths that frames of one f-number show, weighed by their errors, in the order of the f-numbers. */
function depthsByFNumber(
  { evidence }: Pick<ChartEntry, 'evidence'>,
  frames: readonly Pick<NamedFrame, 'fNumber'>[],
): DepthAt[] {
  const groups = new Map<number | null, { weight: number; sum: number; frames: number }>();
  for (const { frame, depth, error } of evidence) {
    const at = frames[frame].fNumber;
    const group = groups.get(at) ?? { weight: 0, sum: 0, frames: 0 };
    const weight = 1 / Math.max(1e-4, error) ** 2;
    groups.set(at, {
      weight: group.weight + weight,
      sum: group.sum + weight * depth,
      frames: group.frames + 1,
    });
  }
  return [...groups]
    .map(([at, { weight, sum, frames: count }]) => ({
      fNumber: at,
      depth: Math.max(-1, Math.min(1, sum / weight)),
      error: Math.min(10, 1 / Math.sqrt(weight)),
      frames: count,
    }))
    .sort((a, b) => (a.fNumber ?? 0) - (b.fNumber ?? 0));
}

export function chartDocument({ sensor, entries }: DustChart, frames: readonly NamedFrame[]): ChartDocument {
  return {
    format: 'fennip-dust-chart',
    version: 1,
    sensor: { width: sensor.width, height: sensor.height },
    frames: frames.map(({ name, fNumber: at }) => ({ name, fNumber: at })),
    faults: entries.map((entry): ChartFault => {
      const { x, y, ...particle } = entry.particle;
      const shadow = shadowAt(entry.particle, REFERENCE_F);
      return {
        ...{ kind: 'speck', polarity: 'dark', number: entry.number },
        ...{ x, y, r: shadow.r, softness: shadow.softness, depth: shadow.depth },
        ...{ confidence: entry.confidence, z: entry.z, particle },
        depths: depthsByFNumber(entry, frames),
        evidence: entry.evidence.map(({ frame, evidence, depth, error }) => ({
          ...{ frame, evidence: Math.max(-1e6, evidence) },
          ...{ depth: Math.max(-1, depth), error: Math.min(10, error) },
        })),
      };
    }),
  };
}

/** The chart that a document holds. */
export const chartOf = ({ sensor, faults }: ChartDocument): DustChart => ({
  sensor,
  entries: faults.map(({ number, x, y, particle, confidence, z, evidence }) => ({
    ...{ number, confidence, z, evidence },
    particle: { x, y, ...particle } satisfies Particle,
  })),
});
