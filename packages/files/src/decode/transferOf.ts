import type { Transfer } from '@fennip/core/light';
import { SRGB_TRANSFER, lightOf } from '@fennip/core/light';

const fixed = (bytes: Buffer, at: number): number => bytes.readInt32BE(at) / 65536;

/** A curve of type `curv` (ICC.1:2022, 10.6): straight, a gamma, or a table. */
function readCurve(bytes: Buffer): Transfer {
  const count = bytes.readUInt32BE(8);
  if (count === 0) return { kind: 'gamma', gamma: 1 };
  if (count === 1) return { kind: 'gamma', gamma: bytes.readUInt16BE(12) / 256 };
  return {
    kind: 'table',
    light: Array.from({ length: count }, (_, i) => bytes.readUInt16BE(12 + 2 * i) / 65535),
  };
}

/** A curve of type `para` (ICC.1:2022, 10.18), all of whose five forms are the last one with some values left out. */
function readParametric(bytes: Buffer): Transfer | null {
  const form = bytes.readUInt16BE(8);
  const [g, a, b, c, d, e, f] = Array.from({ length: [1, 3, 4, 5, 7][form] ?? 0 }, (_, i) =>
    fixed(bytes, 12 + 4 * i),
  );
  switch (form) {
    case 0:
      return { kind: 'gamma', gamma: g };
    case 1:
      return { kind: 'parametric', g, a, b, c: 0, d: -b / a, e: 0, f: 0 };
    case 2:
      return { kind: 'parametric', g, a, b, c: 0, d: -b / a, e: c, f: c };
    case 3:
      return { kind: 'parametric', g, a, b, c, d, e: 0, f: 0 };
    case 4:
      return { kind: 'parametric', g, a, b, c, d, e, f };
    default:
      return null;
  }
}

/** The bytes of each tag of a profile by its signature (ICC.1:2022, 7.3). */
export function tagsOf(icc: Buffer): Map<string, Buffer> {
  const tags = new Map<string, Buffer>();
  const count = icc.readUInt32BE(128);
  for (let i = 0; i < Math.min(count, 100); i++) {
    const entry = 132 + 12 * i;
    const [offset, size] = [icc.readUInt32BE(entry + 4), icc.readUInt32BE(entry + 8)];
    tags.set(icc.toString('latin1', entry, entry + 4), icc.subarray(offset, offset + size));
  }
  return tags;
}

function readTransfer(tag: Buffer | undefined): Transfer | null {
  switch (tag?.toString('latin1', 0, 4)) {
    case 'curv':
      return tag ? readCurve(tag) : null;
    case 'para':
      return tag ? readParametric(tag) : null;
    default:
      return null;
  }
}

/** A curve this near to sRGB's everywhere, in light, is that of sRGB, rounded by who wrote the profile. */
const SAME = 5e-4;

const isSrgb = (transfer: Transfer): boolean =>
  Array.from({ length: 65 }, (_, i) => i / 64).every(
    (value) => Math.abs(lightOf(transfer, value) - lightOf(SRGB_TRANSFER, value)) < SAME,
  );

/**
 * The transfer curves that a profile gives for its colour channels. Undefined where they are sRGB's, and where there
 * is no profile or none that says it by curves: sRGB is then taken.
 */
export function transferOf(icc: Buffer | undefined, isGrey: boolean): Transfer[] | undefined {
  if (!icc) return undefined;
  try {
    const tags = tagsOf(icc);
    const curves = (isGrey ? ['kTRC'] : ['rTRC', 'gTRC', 'bTRC']).map((name) => readTransfer(tags.get(name)));
    if (curves.some((curve) => curve === null)) return undefined;
    const found = curves.filter((curve): curve is Transfer => curve !== null);
    const rises = found.every((curve) =>
      Array.from({ length: 64 }, (_, i) => i / 64).every(
        (value) => lightOf(curve, value + 1 / 64) >= lightOf(curve, value) - 1e-9,
      ),
    );
    return rises && !found.every(isSrgb) ? found : undefined;
  } catch (error) {
    // A profile cut short says nothing; the picture itself is still good.
    if (error instanceof RangeError) return undefined;
    throw error;
  }
}
