import type { LightPatch } from './lightPatch.ts';
import { penumbraFast, penumbraSlope } from './penumbra.ts';
import { PIXEL_BLUR } from './veil.ts';
import { AT, SHAPE_PARAMETERS } from './veilParameters.ts';

/** Columns and rows of a patch. */
export interface Span {
  readonly firstX: number;
  readonly endX: number;
  readonly firstY: number;
  readonly endY: number;
}

/** A veil's `a` on the samples of a patch, and how it changes with each parameter of its shape. */
export interface VeilShape {
  readonly amount: Float32Array;
  readonly slopes: readonly Float32Array[];
  /**
   * Works both out for a point of the fit.
   * @returns the samples it wrote; on their outermost `a` is 0 unless the patch ends there
   */
  lay(point: Float64Array): Span;
}

export function createVeilShape({ left, top, scale, width, height }: LightPatch): VeilShape {
  const amount = new Float32Array(width * height);
  const slopes = Array.from({ length: SHAPE_PARAMETERS }, () => new Float32Array(width * height));
  const [byX, byY, byRadius, bySoftness, byShearA, byShearB, byDepth] = slopes;

  function spanOf(point: Float64Array, r: number, border: number): Span {
    const shear = Math.hypot(point[AT.shearA], point[AT.shearB]);
    const reach = (r * (1 + border)) / (1 - shear) + scale;
    const [x, y] = [(point[AT.x] - left) / scale, (point[AT.y] - top) / scale];
    return {
      firstX: Math.max(0, Math.floor(x - reach / scale)),
      endX: Math.min(width, Math.ceil(x + reach / scale) + 1),
      firstY: Math.max(0, Math.floor(y - reach / scale)),
      endY: Math.min(height, Math.ceil(y + reach / scale) + 1),
    };
  }

  function lay(point: Float64Array): Span {
    const [x, y, logRadius, softness, shearA, shearB, depth] = point;
    const r = Math.exp(logRadius);
    const border = Math.hypot(softness, (PIXEL_BLUR * scale) / r);
    const span = spanOf(point, r, border);
    for (let row = span.firstY; row < span.endY; row++) {
      const dy = top + (row + 0.5) * scale - y;
      for (let column = span.firstX; column < span.endX; column++) {
        const i = row * width + column;
        const dx = left + (column + 0.5) * scale - x;
        const qx = (1 + shearA) * dx + shearB * dy;
        const qy = shearB * dx + (1 - shearA) * dy;
        const distance = Math.sqrt(qx * qx + qy * qy) + 1e-9;
        const t = (1 - distance / r) / border;
        const inside = penumbraFast(t);
        const byT = depth * penumbraSlope(t);
        const byDistance = -byT / (border * r);
        const towards = byDistance / distance;
        amount[i] = depth * inside;
        byX[i] = -towards * (qx * (1 + shearA) + qy * shearB);
        byY[i] = -towards * (qx * shearB + qy * (1 - shearA));
        byRadius[i] = -byDistance * distance;
        bySoftness[i] = (-byT * t * softness) / (border * border);
        byShearA[i] = towards * (qx * dx - qy * dy);
        byShearB[i] = towards * (qx * dy + qy * dx);
        byDepth[i] = inside;
      }
    }
    return span;
  }

  return { amount, slopes, lay };
}
