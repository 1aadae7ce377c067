import type { Lab } from '../colour/lab.ts';

const DEGREE = Math.PI / 180;
const POWER = 25 ** 7;

/** The hue of a colour in degrees, 0 to 360; 0 for grey. */
function hueOf(a: number, b: number): number {
  if (a === 0 && b === 0) return 0;
  const hue = Math.atan2(b, a) / DEGREE;
  return hue < 0 ? hue + 360 : hue;
}

/** From one hue to another the shorter way round, in degrees. */
function hueStep(from: number, to: number): number {
  const step = to - from;
  if (step > 180) return step - 360;
  return step < -180 ? step + 360 : step;
}

/** The middle of two hues on the shorter way between them. */
function meanHue(one: number, other: number): number {
  const sum = one + other;
  if (Math.abs(one - other) <= 180) return sum / 2;
  return sum < 360 ? (sum + 360) / 2 : (sum - 360) / 2;
}

/**
 * How different two colours look: CIEDE2000 (CIE 142-2001, as Sharma, Wu, Dalal 2005 set it out), all weights 1. About
 * 1 is just seen side by side.
 */
export function ciede2000([l1, a1, b1]: Lab, [l2, a2, b2]: Lab): number {
  const meanC = (Math.hypot(a1, b1) + Math.hypot(a2, b2)) / 2;
  const grey = 0.5 * (1 - Math.sqrt(meanC ** 7 / (meanC ** 7 + POWER)));
  const [p1, p2] = [a1 * (1 + grey), a2 * (1 + grey)];
  const [c1, c2] = [Math.hypot(p1, b1), Math.hypot(p2, b2)];
  const [h1, h2] = [hueOf(p1, b1), hueOf(p2, b2)];
  const isGrey = c1 * c2 === 0;
  const stepL = l2 - l1;
  const stepC = c2 - c1;
  const turn = isGrey ? 0 : hueStep(h1, h2);
  const stepH = 2 * Math.sqrt(c1 * c2) * Math.sin((turn / 2) * DEGREE);
  const [midL, midC] = [(l1 + l2) / 2, (c1 + c2) / 2];
  const midH = isGrey ? h1 + h2 : meanHue(h1, h2);
  const t =
    1 -
    0.17 * Math.cos((midH - 30) * DEGREE) +
    0.24 * Math.cos(2 * midH * DEGREE) +
    0.32 * Math.cos((3 * midH + 6) * DEGREE) -
    0.2 * Math.cos((4 * midH - 63) * DEGREE);
  const weightL = 1 + (0.015 * (midL - 50) ** 2) / Math.sqrt(20 + (midL - 50) ** 2);
  const weightC = 1 + 0.045 * midC;
  const weightH = 1 + 0.015 * midC * t;
  const blue = 30 * Math.exp(-(((midH - 275) / 25) ** 2));
  const rotation = -2 * Math.sqrt(midC ** 7 / (midC ** 7 + POWER)) * Math.sin(2 * blue * DEGREE);
  const [dl, dc, dh] = [stepL / weightL, stepC / weightC, stepH / weightH];
  return Math.sqrt(dl * dl + dc * dc + dh * dh + rotation * dc * dh);
}
