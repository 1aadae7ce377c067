import type { LaidFault, LitParticle, SensorParticle, Sheet } from '@fennip/scenes';
import { layChips, layDust, layParticles, laySpecks } from '@fennip/scenes';
import type { Path } from '../../lines.ts';
import { distanceTo } from '../../lines.ts';

/** Faults of one picture: specks, and the pixels of lines. */
export interface Laid {
  readonly specks: LaidFault[];
  readonly lines: readonly Uint32Array[];
}

type Uniform = () => number;

/** Between two numbers, as many from one to twice it as from twice it to four times it. */
const logBetween = (least: number, most: number, uniform: Uniform): number =>
  least * (most / least) ** uniform();
const between = (least: number, most: number, uniform: Uniform): number => least + (most - least) * uniform();

/** A count whose mean is `mean`, from none to three times it. */
const some = (mean: number, uniform: Uniform): number => Math.round(3 * mean * uniform() ** 2);

/** Shadows on a sensor at any f-number: 1.5 to 60 pixels, sharp to soft, faint to deep. */
function laySensorDust(sheet: Sheet, uniform: Uniform): LaidFault[] {
  const { width } = sheet;
  // The dust of one frame is alike in its softness: the f-number is one.
  const softness = between(0.15, 0.85, uniform);
  const largest = logBetween(6, 60, uniform);
  const particles = Array.from({ length: 2 + some(12, uniform) }, (): SensorParticle => {
    const r = logBetween(1.5, largest, uniform);
    return {
      ...{ u: uniform(), v: uniform(), size: r / width },
      softness: Math.min(0.95, softness * between(0.7, 1.3, uniform)),
      depth: 0.04 + 0.6 * uniform() ** 1.5,
      ...{ stretch: 1 + 0.25 * uniform() ** 2, angle: Math.PI * uniform() },
    };
  });
  return layDust(sheet, particles);
}

/** Particles in front of the lens, lit or in the shade, white or coloured; some out of focus with a bright rim or a tail. */
function layLitParticles(sheet: Sheet, uniform: Uniform): LaidFault[] {
  const { width, height } = sheet;
  const largest = logBetween(4, 40, uniform);
  const tint = [between(0.6, 1, uniform), 1, between(0.7, 1.1, uniform)] as const;
  const laid: LaidFault[] = [];
  for (let k = 2 + some(14, uniform); k > 0; k--) {
    const r = logBetween(1.5, largest, uniform);
    const shine = 0.15 + 1.1 * uniform() ** 2;
    const particle: LitParticle = {
      ...{ x: uniform() * width, y: uniform() * height, r },
      ...{
        softness: between(0.08, 0.6, uniform),
        stretch: 1 + 0.4 * uniform() ** 2,
        angle: Math.PI * uniform(),
      },
      depth: Math.min(0.95, (0.2 + 0.8 * uniform()) * (1 - 0.5 * (r / 40))),
      colour: [shine * tint[0], shine, shine * tint[2]],
    };
    laid.push(...layParticles(sheet, [particle]));
    const extra = uniform();
    if (r > 4 && extra < 0.3)
      // The rim of a lens' disc of confusion is brighter than its middle.
      layParticles(sheet, [{ ...particle, r: 0.8 * r, depth: 0.5 * particle.depth, colour: [0, 0, 0] }]);
    else if (extra < 0.45) {
      const angle = 2 * Math.PI * uniform();
      for (let t = 1; t < 7; t++) {
        const away = 0.6 * t * r;
        const [x, y] = [particle.x + away * Math.cos(angle), particle.y + away * Math.sin(angle)];
        layParticles(sheet, [{ ...particle, x, y, r: r * (1 - 0.12 * t), depth: particle.depth * 0.4 ** t }]);
      }
    }
  }
  return laid;
}

/** Dust on the scanner's glass, pinholes, chips, spots of mould: hard, of any shape. */
function layHardSpecks(sheet: Sheet, uniform: Uniform): LaidFault[] {
  const seed = Math.floor(1e9 * uniform());
  const specks = laySpecks(sheet, 2 + some(16, uniform), seed);
  const chips = uniform() < 0.3 ? layChips(sheet, 1 + some(1, uniform), seed + 1) : [];
  if (uniform() > 0.25) return [...specks, ...chips];
  // Spots of mould lie together, dark or pale, softer than dust.
  const [cx, cy] = [sheet.width * uniform(), sheet.height * uniform()];
  const mould = Array.from({ length: 4 + some(6, uniform) }, () => ({
    u: (cx + 90 * (uniform() - 0.5)) / sheet.width,
    v: (cy + 90 * (uniform() - 0.5)) / sheet.height,
    size: logBetween(1.5, 7, uniform) / sheet.width,
    ...{ softness: between(0.3, 0.8, uniform), depth: between(0.1, 0.5, uniform) },
    ...{ stretch: 1 + 0.3 * uniform(), angle: Math.PI * uniform() },
  }));
  return [...specks, ...chips, ...layDust(sheet, mould)];
}

function wander(
  { width, height }: Pick<Sheet, 'width' | 'height'>,
  uniform: Uniform,
  bend: number,
  steps: number,
): Path {
  let [x, y] = [width * uniform(), height * uniform()];
  let heading = 2 * Math.PI * uniform();
  let curl = bend * (uniform() - 0.5);
  const path: Path = [[x, y]];
  for (let i = 0; i < steps; i++) {
    if (uniform() < 0.05) curl = bend * (uniform() - 0.5);
    heading += curl + 0.6 * bend * (uniform() - 0.5);
    x += 5 * Math.cos(heading);
    y += 5 * Math.sin(heading);
    path.push([x, y]);
  }
  return path;
}

/** How far the pixels near a course lie from it, by their index: segment after segment, so that a long one takes no longer. */
function distancesNear(path: Path, reach: number, width: number, height: number): Map<number, number> {
  const nearest = new Map<number, number>();
  for (let k = 1; k < path.length; k++) {
    const [[ax, ay], [bx, by]] = [path[k - 1], path[k]];
    const [endX, endY] = [
      Math.min(width, Math.max(ax, bx) + reach),
      Math.min(height, Math.max(ay, by) + reach),
    ];
    for (let y = Math.max(0, Math.floor(Math.min(ay, by) - reach)); y < endY; y++)
      for (let x = Math.max(0, Math.floor(Math.min(ax, bx) - reach)); x < endX; x++) {
        const away = distanceTo([path[k - 1], path[k]], x + 0.5, y + 0.5);
        const i = y * width + x;
        if (away <= reach && away < (nearest.get(i) ?? Infinity)) nearest.set(i, away);
      }
  }
  return nearest;
}

/** How a line looks: half its width, the width of a soft border, what it covers the picture with, and how much. */
interface LineLook {
  readonly r: number;
  /** Half the border of a crease or of a shadow, in pixels; null for what is sharp. */
  readonly soft: number | null;
  readonly light: readonly number[];
  readonly depth: number;
}

/** Dark hairs, white scratches, those of the emulsion that show one layer's colour, creases, shadows of fibres. */
function drawnLook(uniform: Uniform): LineLook {
  const r = logBetween(0.6, 4, uniform) / 2;
  const soft = uniform() < 0.25 ? between(1, 6, uniform) : null;
  const shade = uniform();
  const level = shade < 0.4 ? 0.01 + 0.05 * uniform() : shade < 0.8 ? 0.6 + 0.4 * uniform() : uniform();
  const tint = (): number => 0.4 + 0.6 * uniform();
  const hasTint = uniform() < 0.2;
  const light = [0, 1, 2].map(() => (soft !== null && shade < 0.6 ? 0 : level * (hasTint ? tint() : 1)));
  return { r, soft, light, depth: soft === null ? between(0.25, 1, uniform) : between(0.08, 0.5, uniform) };
}

/** How much of a line lies on a pixel so far from its middle, 0 to 1. */
const shareAt = ({ r, soft }: LineLook, away: number): number =>
  soft === null ? Math.min(1, Math.max(0, r + 0.5 - away)) : Math.exp(-0.5 * (away / (r + 0.5 * soft)) ** 2);

/** One line of any kind. @returns its pixels */
function layLine({ light, ...sheet }: Sheet, uniform: Uniform): Uint32Array {
  const isCurled = uniform() < 0.45;
  const bend = isCurled ? between(0.1, 0.7, uniform) : 0.06 * uniform() ** 2;
  const path = wander(sheet, uniform, bend, logBetween(8, isCurled ? 60 : 140, uniform));
  const look = drawnLook(uniform);
  const reach = look.r + 2.5 * (look.soft ?? 0.5);
  const inside: number[] = [];
  for (const [i, away] of distancesNear(path, reach, sheet.width, sheet.height)) {
    const share = shareAt(look, away);
    if (share < 0.04) continue;
    if (share > 0.3) inside.push(i);
    for (let c = 0; c < 3; c++) light[3 * i + c] += share * look.depth * (look.light[c] - light[3 * i + c]);
  }
  return Uint32Array.from(inside);
}

/** Lays faults of any families on a sheet of light, or none. @param uniform 0 to 1, seeded */
export function layVariedFaults(sheet: Sheet, uniform: Uniform): Laid {
  const specks: LaidFault[] = [];
  const lines: Uint32Array[] = [];
  // One in six stays as it is.
  if (uniform() < 1 / 6) return { specks, lines };
  if (uniform() < 0.5) specks.push(...laySensorDust(sheet, uniform));
  if (uniform() < 0.3) specks.push(...layLitParticles(sheet, uniform));
  if (uniform() < 0.35) specks.push(...layHardSpecks(sheet, uniform));
  if (uniform() < 0.5) for (let k = 1 + some(3, uniform); k > 0; k--) lines.push(layLine(sheet, uniform));
  return { specks, lines };
}
