import type { Raster } from '@fennip/core';
import type { LaidFault, Sheet } from '@fennip/scenes';
import { discAt, layDust, layParticles, litParticles, sensorDust } from '@fennip/scenes';
import { fromSheet, toSheet } from './light.ts';

/** A clean picture, what was done to it, and where. */
export interface Damaged {
  readonly clean: Raster;
  readonly seen: Raster;
  readonly faults: readonly LaidFault[];
}

export type DamageKind = 'dust' | 'particles';

/** How many faults are laid on a megapixel. */
const DENSITY = 45;

/** A sensor's worth of dirt over a picture whose pixels are those of a 24-megapixel frame. */
function dust(sheet: Sheet, count: number, seed: number): LaidFault[] {
  const scale = 6000 / sheet.width;
  return layDust(
    sheet,
    sensorDust(count, seed).map((particle) => ({ ...particle, size: particle.size * 0.55 * scale })),
  );
}

function particles(sheet: Sheet, count: number, seed: number): LaidFault[] {
  const { width, height } = sheet;
  return layParticles(
    sheet,
    litParticles(count, width, height, seed).map((particle) => ({
      ...particle,
      r: particle.r * (2600 / width),
    })),
  );
}

/** Lays seeded faults on a picture in linear light. */
export function damage(clean: Raster, kind: DamageKind, seed: number): Damaged {
  const sheet = toSheet(clean);
  const count = Math.round((DENSITY * clean.width * clean.height) / 1e6);
  const faults = kind === 'dust' ? dust(sheet, count, seed) : particles(sheet, count, seed);
  return { clean: fromSheet(toSheet(clean)), seen: fromSheet(sheet), faults };
}

/** The pixels that lie on any of the faults, a little beyond half depth. */
export function damagedPixels({ clean, faults }: Damaged): Uint8Array {
  const { width, height } = clean;
  const inside = new Uint8Array(width * height);
  for (const { x, y, r } of faults) {
    const disc = { x, y, r: r * 1.25, softness: 0, stretch: 1, angle: 0 };
    for (let py = Math.max(0, Math.floor(y - disc.r)); py < Math.min(height, y + disc.r); py++)
      for (let px = Math.max(0, Math.floor(x - disc.r)); px < Math.min(width, x + disc.r); px++)
        if (discAt(disc, px + 0.5, py + 0.5) > 0.5) inside[py * width + px] = 1;
  }
  return inside;
}
