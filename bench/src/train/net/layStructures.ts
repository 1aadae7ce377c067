import type { Raster } from '@fennip/core/raster';
import { throughSharp } from '../throughSharp.ts';

type Uniform = () => number;

const grey = (uniform: Uniform): string => {
  const level = Math.round(uniform() < 0.6 ? 60 * uniform() : 255 * uniform());
  const cast = (): number => Math.max(0, Math.min(255, Math.round(level + 30 * (uniform() - 0.5))));
  return `rgb(${cast()},${cast()},${cast()})`;
};

/** A mast or a bridge: two rails and what is braced between them. */
function lattice(size: number, uniform: Uniform): string {
  const [wide, width] = [8 + 40 * uniform(), 1 + 4 * uniform()];
  const pitch = wide * (0.6 + uniform());
  const colour = grey(uniform);
  const lines: string[] = [0, wide].map((x) => `M${x} 0V${size}`);
  for (let y = 0; y < size; y += pitch)
    lines.push(`M0 ${y}L${wide} ${y + pitch}`, `M${wide} ${y}L0 ${y + pitch}`);
  return `<path d="${lines.join('')}" fill="none" stroke="${colour}" stroke-width="${width}"/>`;
}

/** Wires, rails, planks: several lines side by side. */
function parallels(size: number, uniform: Uniform): string {
  const [apart, count, width] = [4 + 60 * uniform(), 2 + Math.floor(8 * uniform()), 0.8 + 5 * uniform()];
  const colour = grey(uniform);
  const sag = 40 * uniform() * (uniform() < 0.5 ? 1 : 0);
  const lines = Array.from(
    { length: count },
    (_, k) => `M0 ${k * apart}Q${size / 2} ${k * apart + sag} ${size} ${k * apart}`,
  );
  return `<path d="${lines.join('')}" fill="none" stroke="${colour}" stroke-width="${width}"/>`;
}

/** Lamps, windows, rivets: things in a row. */
function row(size: number, uniform: Uniform): string {
  const [apart, r] = [10 + 60 * uniform(), 1.5 + 10 * uniform() ** 2];
  const colour = uniform() < 0.5 ? 'rgb(255,250,225)' : grey(uniform);
  const isRound = uniform() < 0.6;
  const things: string[] = [];
  for (let x = 0; x < size; x += apart)
    things.push(
      isRound
        ? `<circle cx="${x}" cy="0" r="${r}" fill="${colour}"/>`
        : `<rect x="${x}" y="0" width="${2 * r}" height="${2.6 * r}" fill="${colour}"/>`,
    );
  return things.join('');
}

function letters(size: number, uniform: Uniform): string {
  const text = Array.from({ length: 14 }, () => String.fromCharCode(65 + Math.floor(26 * uniform()))).join(
    '',
  );
  return `<text x="0" y="0" font-family="sans-serif" font-size="${8 + (size / 9) * uniform()}" fill="${grey(uniform)}">${text}</text>`;
}

const KINDS = [lattice, parallels, row, letters];

/**
 * Draws what only looks like faults over a picture: masts and bridges, wires and rails, rows of lamps, letters.
 *
 * @param picture of 8 bits and three channels
 * @param uniform 0 to 1, seeded
 */
export function layStructures(picture: Raster, uniform: Uniform): Promise<Raster> {
  const { width, height } = picture;
  const size = 2 * Math.max(width, height);
  const drawn = Array.from({ length: 1 + Math.floor(3 * uniform()) }, () => {
    const kind = KINDS[Math.floor(uniform() * KINDS.length)];
    const turn = uniform() < 0.5 ? 90 * Math.floor(4 * uniform()) + 6 * (uniform() - 0.5) : 360 * uniform();
    const at = `translate(${width * uniform()} ${height * uniform()}) rotate(${turn}) translate(${-size / 2} 0)`;
    return `<g transform="${at}" opacity="${0.5 + 0.5 * uniform()}">${kind(size, uniform)}</g>`;
  });
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}">${drawn.join('')}</svg>`;
  return throughSharp(picture, (pixels) => pixels.composite([{ input: Buffer.from(svg) }]));
}
