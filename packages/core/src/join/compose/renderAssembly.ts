import type { Raster } from '../../raster/raster.ts';
import { createRaster, fullScale } from '../../raster/raster.ts';
import { intersectRects } from '../../raster/rect.ts';
import { createLanczosReader } from '../../resample/lanczosReader.ts';
import { polygonPixels } from '../../target/polygonPixels.ts';
import { targetBounds } from '../../target/targetBounds.ts';
import type { AssembledPiece, Assembly } from '../assembly.ts';
import { place, unplace } from '../fit/placement.ts';
import { openSeams } from './openSeams.ts';

/** What lies at a place of a piece: nothing (0), fibre (1), or its picture. */
const PICTURE = 2;

/** A joined picture. */
export interface JoinedPicture {
  readonly raster: Raster;
  /** For each pixel the number of the piece that its picture comes from, plus one; 0 where only fibre or nothing lies, and where two meet. */
  readonly origin: Uint8Array;
}

/** Pixels so near to a border hold some of what lies beyond: a scanner's own blur, and that of resampling, in pixels. */
const MIXED = 2;

/** Marked pixels of a rectangle that are marked as far as {@link MIXED} pixels around. */
function eroded(marked: Uint8Array, width: number): Uint8Array {
  let inner = marked;
  for (let k = 0; k < MIXED; k++) {
    const from = inner;
    inner = from.map((is, i) =>
      is && from[i - 1] && from[i + 1] && from[i - width] && from[i + width] ? 1 : 0,
    );
  }
  return inner;
}

/** What of a piece lies at each pixel of the rectangle of its scan that holds it. Pixels at a border hold some of what lies beyond. */
function layersOf({ paper, picture, holes }: AssembledPiece) {
  const { left, top, width, height } = targetBounds({ shape: 'outline', points: paper }, 1 + MIXED);
  const box = { left, top, width, height };
  const layers = eroded(polygonPixels(paper, box), width);
  const inPicture = eroded(polygonPixels(picture, box), width);
  const inHoles = holes.map((hole) => polygonPixels(hole, box));
  for (let i = 0; i < layers.length; i++) {
    if (layers[i] && inPicture[i]) layers[i] = PICTURE;
    if (inHoles.some((hole) => hole[i])) layers[i] = 0;
  }
  return { box, layers };
}

type Layers = ReturnType<typeof layersOf>;

/** What lies where a place of the scan is. */
function layerAt({ box, layers }: Layers, x: number, y: number): number {
  const [column, row] = [Math.floor(x) - box.left, Math.floor(y) - box.top];
  return column >= 0 && row >= 0 && column < box.width && row < box.height
    ? layers[row * box.width + column]
    : 0;
}

/**
 * Makes the picture of an assembly. Each pixel is read once from its scan, by Lanczos' kernel of three lobes in encoded
 * values; a piece that is only moved by whole pixels keeps every value. Where a picture and white fibre lie at one place the
 * picture is shown; where nothing lies, white.
 *
 * @param scans as the assembly numbers them, of one depth and number of channels
 */
export function renderAssembly(scans: readonly Raster[], assembly: Assembly): JoinedPicture {
  const { width, height, pieces } = assembly;
  const [{ depth, planes }] = scans;
  const full = fullScale(depth);
  const raster = createRaster(width, height, planes.length, depth);
  for (const plane of raster.planes) plane.fill(full);
  const [origin, best] = [new Uint8Array(width * height), new Uint8Array(width * height)];
  const value = new Float64Array(planes.length);
  const readers = scans.map(createLanczosReader);
  pieces.forEach((piece, k) => {
    const { placement } = piece;
    if (!placement) return;
    const layers = layersOf(piece);
    const read = readers[piece.scan];
    const laid = piece.paper.map((point) => place(placement, point));
    const reach = targetBounds({ shape: 'outline', points: laid }, 1);
    const box = intersectRects(reach, { left: 0, top: 0, width, height });
    // Where on the scan a pixel lies goes on by the same step from each to the next.
    const [x0, y0] = unplace(placement, [0.5, 0.5]);
    const [cos, sin] = [Math.cos(placement.angle), Math.sin(placement.angle)];
    for (let y = box.top; y < box.top + box.height; y++)
      for (let x = box.left; x < box.left + box.width; x++) {
        const [sx, sy] = [x0 + cos * x + sin * y, y0 + cos * y - sin * x];
        const layer = layerAt(layers, sx, sy);
        const i = y * width + x;
        if (layer <= best[i]) continue;
        best[i] = layer;
        if (layer === PICTURE) origin[i] = k + 1;
        read(sx, sy, value);
        for (let c = 0; c < value.length; c++)
          raster.planes[c][i] = Math.max(0, Math.min(full, Math.round((piece.gain?.[c] ?? 1) * value[c])));
      }
  });
  openSeams(origin, width);
  return { raster, origin };
}
