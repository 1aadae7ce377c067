import type { FaultToMend } from '@fennip/core/mend';
import type { Raster } from '@fennip/core/raster';
import { mulberry } from '@fennip/core/random';
import type { LaidFault, SensorParticle, Sheet } from '@fennip/scenes';
import { discAt, layDust, layParticles, laySpecks, litParticles, sensorDust } from '@fennip/scenes';
import { fromSheet, toSheet } from './light.ts';
import { LINE_KINDS, layLines } from './lines.ts';
import type { LineKind } from './lines.ts';

/** A clean picture, what was done to it, and where. */
export interface Damaged {
  readonly clean: Raster;
  readonly seen: Raster;
  readonly faults: readonly LaidFault[];
  /** 1 where a pixel counts as damaged. */
  readonly inside: Uint8Array;
}

export const SPOT_KINDS = ['soft dust', 'lit particles', 'hard dust'] as const;
export type DamageKind = (typeof SPOT_KINDS)[number] | LineKind;
export const DAMAGE_KINDS: readonly DamageKind[] = [...SPOT_KINDS, ...LINE_KINDS];

/** How many spots are laid on a megapixel. */
const DENSITY = 45;

/**
 * A sensor's worth of dirt over a picture whose pixels are those of a 24-megapixel frame.
 *
 * @param altered what becomes of each particle before it is laid
 */
export function dust(
  sheet: Sheet,
  count: number,
  seed: number,
  altered: (particle: SensorParticle) => SensorParticle = (particle) => particle,
): LaidFault[] {
  const scale = 6000 / sheet.width;
  return layDust(
    sheet,
    sensorDust(count, seed).map((particle) => ({
      ...altered(particle),
      size: particle.size * 0.55 * scale,
    })),
  );
}

/** Lit particles as a frame of 2600 pixels across shows them. */
export function particles(sheet: Sheet, count: number, seed: number): LaidFault[] {
  const { width, height } = sheet;
  return layParticles(
    sheet,
    litParticles(count, width, height, seed).map((particle) => ({
      ...particle,
      r: particle.r * (2600 / width),
    })),
  );
}

/**
 * Faults with the polarity that shows: a particle with light of its own is dark where the scene behind it has more, as
 * specks of silt are before a sky.
 */
export function asSeen(faults: readonly LaidFault[], before: Sheet, after: Sheet): LaidFault[] {
  const { width, height } = before;
  return faults.map((fault) => {
    const { x, y, r } = fault;
    let more = 0;
    for (let py = Math.max(0, Math.floor(y - r)); py < Math.min(height, y + r); py++)
      for (let px = Math.max(0, Math.floor(x - r)); px < Math.min(width, x + r); px++) {
        const at = 3 * (py * width + px);
        for (let c = 0; c < 3; c++) more += after.light[at + c] - before.light[at + c];
      }
    return { ...fault, polarity: more < 0 ? 'dark' : 'bright' };
  });
}

function laySpots(
  sheet: Sheet,
  kind: (typeof SPOT_KINDS)[number],
  seed: number,
  density: number,
): LaidFault[] {
  const count = Math.round((density * sheet.width * sheet.height) / 1e6);
  switch (kind) {
    case 'soft dust':
      return dust(sheet, count, seed);
    case 'lit particles':
      return particles(sheet, count, seed);
    case 'hard dust':
      return laySpecks(sheet, count, seed);
  }
}

const isSpots = (kind: DamageKind): kind is (typeof SPOT_KINDS)[number] =>
  SPOT_KINDS.some((name) => name === kind);

/** Lays seeded faults on a picture in linear light. @param density on a megapixel; as usual for the kind where none is given */
export function damage(clean: Raster, kind: DamageKind, seed: number, density?: number): Damaged {
  const sheet = toSheet(clean);
  const whole = fromSheet(toSheet(clean));
  if (isSpots(kind)) {
    const faults = laySpots(sheet, kind, seed, density ?? DENSITY);
    return { clean: whole, seen: fromSheet(sheet), faults, inside: spotPixels(faults, clean) };
  }
  const { faults, inside } = layLines(sheet, kind, seed, density);
  return { clean: whole, seen: fromSheet(sheet), faults, inside };
}

/** A frame with so many specks, soft shadows and hard dust in equal parts. */
export function specked(clean: Raster, count: number, seed: number): Omit<Damaged, 'inside' | 'clean'> {
  const sheet = toSheet(clean);
  const faults = [
    ...dust(sheet, Math.ceil(count / 2), seed),
    ...laySpecks(sheet, Math.floor(count / 2), seed + 1),
  ];
  return { seen: fromSheet(sheet), faults };
}

/** The pixels that lie on any of the spots, a little beyond half depth. */
export function spotPixels(faults: readonly LaidFault[], { width, height }: Raster): Uint8Array {
  const inside = new Uint8Array(width * height);
  for (const { x, y, r } of faults) {
    const disc = { x, y, r: r * 1.25, softness: 0, stretch: 1, angle: 0 };
    for (let py = Math.max(0, Math.floor(y - disc.r)); py < Math.min(height, y + disc.r); py++)
      for (let px = Math.max(0, Math.floor(x - disc.r)); px < Math.min(width, x + disc.r); px++)
        if (discAt(disc, px + 0.5, py + 0.5) > 0.5) inside[py * width + px] = 1;
  }
  return inside;
}

/**
 * The faults as a click with a rough radius gives them: the centre off by up to 0.21 of the radius, the radius by up to
 * a fifth. Lines keep their course.
 */
export function roughly({ faults }: Pick<Damaged, 'faults'>, seed: number): FaultToMend[] {
  const uniform = mulberry(seed);
  return faults.map(({ x, y, r, polarity, path }, i) => {
    const [byR, byX, byY] = [0.8 + 0.4 * uniform(), uniform() - 0.5, uniform() - 0.5];
    const base = { id: `m${i}`, softness: 0.5, polarity };
    return path
      ? { ...base, x, y, r, path }
      : { ...base, x: x + 0.3 * r * byX, y: y + 0.3 * r * byY, r: r * byR };
  });
}
