import type { Rect } from '../raster/rect.ts';
import { penumbraFast } from './penumbra.ts';

/**
 * A thin occluder before the picture: `seen = real (1 - a) + a light` in linear light, with `a` a round or slightly
 * oval disc of `depth`, blurred by the aperture. A shadow has no light of its own.
 * (Willson, Maimone, Johnson, Scherr 2005; Gu, Ramamoorthi, Belhumeur, Nayar 2009.)
 */
export interface Veil {
  readonly kind: 'disc';
  /** Centre in pixels of the upright picture. */
  readonly x: number;
  readonly y: number;
  /** Mean radius at half the depth, in pixels, above 0. */
  readonly r: number;
  /** Half the width of the penumbra over the radius, 0 to 1. */
  readonly softness: number;
  /** Longest over mean radius, 1 and up. */
  readonly stretch: number;
  /** Direction of the longest radius in radians, from x towards y. */
  readonly angle: number;
  /** `a` inside, 0 to 1. */
  readonly depth: number;
  /** Linear light of the occluder's own for each colour channel, 0 and up; null for a shadow. */
  readonly light: readonly number[] | null;
}

/** A veil that is known before the picture is looked at, and the standard error of its depth. */
export interface KnownVeil {
  readonly veil: Veil;
  readonly depthError: number;
}

/** Half the width of a pixel's own blur: no border is sharper than that. */
export const PIXEL_BLUR = 0.6;

/** Half the width of the penumbra with the pixel's own blur in it, over the radius. */
export const borderOf = (softness: number, r: number): number => Math.hypot(softness, PIXEL_BLUR / r);

/** The rectangle beyond which a veil is nothing. It may leave the picture. */
export function veilBounds(veil: Veil): Rect {
  const reach = veil.r * veil.stretch * (1 + borderOf(veil.softness, veil.r)) + 1;
  const left = Math.floor(veil.x - reach);
  const top = Math.floor(veil.y - reach);
  return { left, top, width: Math.ceil(veil.x + reach) - left, height: Math.ceil(veil.y + reach) - top };
}

/** `a` at the centre of each pixel of a rectangle, row after row. */
export function veilField(veil: Veil, { left, top, width, height }: Rect): Float32Array {
  const field = new Float32Array(width * height);
  const [cos, sin] = [Math.cos(veil.angle), Math.sin(veil.angle)];
  const border = borderOf(veil.softness, veil.r);
  for (let row = 0, i = 0; row < height; row++) {
    const dy = top + row + 0.5 - veil.y;
    for (let column = 0; column < width; column++, i++) {
      const dx = left + column + 0.5 - veil.x;
      const along = (dx * cos + dy * sin) / veil.stretch;
      const across = (dy * cos - dx * sin) * veil.stretch;
      const distance = Math.sqrt(along * along + across * across) / veil.r;
      field[i] = veil.depth * penumbraFast((1 - distance) / border);
    }
  }
  return field;
}
