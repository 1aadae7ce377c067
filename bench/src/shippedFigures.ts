import type { PictureNature } from '@fennip/core/examine';
import { EXAMINE_DEFAULTS, leastConfidence } from '@fennip/core/examine';
import type { Fault } from '@fennip/core/fault';
import type { Raster } from '@fennip/core/raster';
import { cloneRaster, lumaPlane, viewRaster } from '@fennip/core/raster';
import type { DamageKind } from './damage.ts';
import { damage } from './damage.ts';
import { f1Of } from './find.ts';
import { findEverything } from './findEverything.ts';
import { judgeSpecks } from './judgeSpecks.ts';
import { scoreLines } from './onLines.ts';
import { loadPhotograph } from './photographs.ts';
import { UNSEEN } from './seenCases.ts';
import { AT_A_GLANCE, standsOut } from './standsOut.ts';

/** F1 of what is listed at the default, of what stands out; on clean parts how many false finds are listed. */
export type ShippedFigures = Readonly<Record<string, number>>;

const KINDS: readonly (readonly [DamageKind, PictureNature])[] = [
  ['soft dust', 'frame'],
  ['lit particles', 'frame'],
  ['hard dust', 'print'],
  ['light scratches', 'print'],
  ['hairs', 'print'],
];
const SIDE = 480;
const SEED = 77;

const isListed = ({ confidence }: Fault): boolean =>
  confidence >= leastConfidence(EXAMINE_DEFAULTS.sensitivity);

/** The middle of a photograph: all that is looked at, so that it takes a few seconds. */
function middleOf(raster: Raster): Raster {
  const [left, top] = [(raster.width - SIDE) >> 1, (raster.height - SIDE) >> 1];
  return cloneRaster(viewRaster(raster, { left, top, width: SIDE, height: SIDE }));
}

async function f1OfKind(clean: Raster, kind: DamageKind, nature: PictureNature): Promise<number> {
  const { seen, faults } = damage(clean, kind, SEED, 70);
  const listed = (await findEverything(seen, nature)).filter(isListed);
  if (faults.some(({ path }) => path)) {
    const lines = listed.flatMap(({ path, polarity, r }) => (path ? [{ path, polarity, width: 2 * r }] : []));
    return scoreLines(lines, faults).f1;
  }
  const luma = lumaPlane(seen);
  const standing = faults.map((fault) => ({ ...fault, stands: standsOut(luma, fault) }));
  const judged = judgeSpecks(
    listed.filter(({ kind: found }) => found === 'speck'),
    standing,
  );
  const found = judged.filter(({ isFault }) => isFault).length;
  return f1Of(found, judged.length - found, standing.filter(({ stands }) => stands >= AT_A_GLANCE).length);
}

/** What the forests of this tree, with the net where there is one, find on small parts of two photographs that nothing was learned from. */
export async function shippedFigures(): Promise<ShippedFigures> {
  const figures: Record<string, number> = {};
  for (const name of UNSEEN) {
    const clean = middleOf((await loadPhotograph(name)).raster);
    for (const [kind, nature] of KINDS)
      figures[`${name}, ${kind}`] = Number((await f1OfKind(clean, kind, nature)).toFixed(3));
    figures[`${name}, clean`] = (await findEverything(clean, 'frame')).filter(isListed).length;
  }
  return figures;
}
