import { mkdir } from 'node:fs/promises';
import { dirname } from 'node:path';
import type { Fault } from '@fennip/core/fault';
import type { Raster } from '@fennip/core/raster';
import type { LaidFault } from '@fennip/scenes';
import { throughSharp } from './train/throughSharp.ts';

type Place = Pick<Fault, 'x' | 'y' | 'r' | 'path' | 'outline'>;

/** What was made of a picture with known faults. */
export interface DrawnFinds {
  readonly found: readonly Place[];
  readonly missed: readonly LaidFault[];
  readonly wrong: readonly (Place & { readonly confidence: number })[];
}

/** Width of a drawn picture, in pixels. */
const WIDTH = 640;

/** A place as its course, its border or a square around it; strokes are a pixel and a half wide on what is drawn. */
function drawn({ x, y, r, path, outline }: Place, colour: string, scale: number): string {
  const style = `fill="none" stroke="${colour}" stroke-width="${1.5 / scale}"`;
  const points = (outline ?? path ?? []).map(([px, py]) => `${px.toFixed(1)},${py.toFixed(1)}`).join(' ');
  if (outline) return `<polygon points="${points}" ${style}/>`;
  if (path) return `<polyline points="${points}" ${style}/>`;
  const half = r + 5 / scale;
  return `<rect x="${x - half}" y="${y - half}" width="${2 * half}" height="${2 * half}" ${style}/>`;
}

/** Writes a picture with what was found (green), missed (magenta) and wrong (yellow, with its confidence) as a PNG. */
export async function drawFound(file: string, seen: Raster, finds: DrawnFinds): Promise<void> {
  const scale = WIDTH / seen.width;
  const marks = [
    ...finds.found.map((place) => drawn(place, '#0f0', scale)),
    ...finds.missed.map((place) => drawn(place, '#f0f', scale)),
    ...finds.wrong.map((place) => drawn(place, '#ff0', scale)),
    ...finds.wrong.map(
      ({ x, y, r, confidence }) =>
        `<text x="${x + r + 6 / scale}" y="${y}" font-size="${11 / scale}" fill="#ff0">${confidence.toFixed(2)}</text>`,
    ),
  ];
  const { width, height } = seen;
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}">${marks.join('')}</svg>`;
  await mkdir(dirname(file), { recursive: true });
  await throughSharp(seen, (picture) => picture.composite([{ input: Buffer.from(svg) }])).then((marked) =>
    throughSharp(marked, async (picture) => {
      await picture.clone().resize({ width: WIDTH }).png().toFile(file);
      return picture;
    }),
  );
}
