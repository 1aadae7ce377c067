import type { RgbSpace } from '@fennip/core/colour';
import { DISPLAY_P3_SPACE } from '@fennip/core/colour';
import { lightOf } from '@fennip/core/light';

/** Places along each side of the table. */
const GRID = 17;
const D50 = [0.9642, 1, 0.8249];

/** CIE 15: the function of CIELAB. */
const lift = (t: number): number => (t > (6 / 29) ** 3 ? Math.cbrt(t) : t / (3 * (6 / 29) ** 2) + 4 / 29);

/** CIELAB of encoded values, 0 to 1, against D50. */
function labOf(values: readonly number[], { transfer, toXyz }: RgbSpace): [number, number, number] {
  const light = values.map((value, c) => lightOf(transfer[c], value));
  const [x, y, z] = toXyz.map((row, i) =>
    lift(row.reduce((sum, weight, c) => sum + weight * light[c], 0) / D50[i]),
  );
  return [116 * y - 16, 500 * (x - y), 200 * (y - z)];
}

/** The table of a space as `lut16Type` (ICC.1:2022, 10.10): Lab in 16 bit, straight curves before and after it. */
function tableOf(space: RgbSpace): Buffer {
  const head = Buffer.alloc(52);
  head.write('mft2', 0, 'latin1');
  head.set([3, 3, GRID, 0], 8);
  for (const at of [12, 28, 44]) head.writeInt32BE(65536, at);
  head.writeUInt16BE(2, 48);
  head.writeUInt16BE(2, 50);
  const straight = Buffer.alloc(12);
  for (const at of [2, 6, 10]) straight.writeUInt16BE(65535, at);
  const places = Buffer.alloc(GRID ** 3 * 6);
  for (let i = 0; i < GRID ** 3; i++) {
    const values = [GRID ** 2, GRID, 1].map((step) => (Math.floor(i / step) % GRID) / (GRID - 1));
    const [l, a, b] = labOf(values, space);
    [l * 652.8, (a + 128) * 256, (b + 128) * 256].forEach((code, c) =>
      places.writeUInt16BE(Math.min(65535, Math.max(0, Math.round(code))), 6 * i + 2 * c),
    );
  }
  return Buffer.concat([head, straight, places, straight]);
}

/** A scanner's profile that says by a table only what its values mean (ICC.1:2022, 7.2 and 8.3): those of Display P3. */
export function tableProfile(): Buffer {
  const table = tableOf(DISPLAY_P3_SPACE);
  const head = Buffer.alloc(144);
  head.writeUInt32BE(head.length + table.length, 0);
  head.writeUInt32BE(0x02400000, 8);
  head.write('scnrRGB Lab ', 12, 'latin1');
  head.write('acsp', 36, 'latin1');
  D50.forEach((value, i) => head.writeInt32BE(Math.round(value * 65536), 68 + 4 * i));
  head.writeUInt32BE(1, 128);
  head.write('A2B0', 132, 'latin1');
  head.writeUInt32BE(head.length, 136);
  head.writeUInt32BE(table.length, 140);
  return Buffer.concat([head, table]);
}
