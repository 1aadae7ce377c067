import type { Polarity } from '../../fault/fault.ts';
import type { WitnessMap } from './witness.ts';
import type { WitnessMaps } from './witnessMaps.ts';
import { UNLIKELIEST, mapAt, toByte } from './witnessMaps.ts';

const CENTRE: Readonly<Record<Polarity, WitnessMap>> = { dark: 'darkCentre', bright: 'brightCentre' };
const DISC: Readonly<Record<Polarity, WitnessMap>> = { dark: 'darkDisc', bright: 'brightDisc' };

/** A place where a net sees the centre of a speck. Pixels of the picture. */
export interface WitnessedSpeck {
  readonly polarity: Polarity;
  readonly x: number;
  readonly y: number;
  readonly r: number;
  /** Log-odds that a centre lies here, as the net says. */
  readonly heat: number;
}

/** Centres less likely than this are none, in log-odds: of 300 such places one is a fault. */
const LEAST_HEAT = -2;

/** The places of a polarity where a net sees a centre: the largest of three by three. */
export function witnessedSpecks(maps: WitnessMaps, polarity: Polarity): WitnessedSpeck[] {
  const { width, height } = maps;
  const heats = maps.planes[CENTRE[polarity]];
  const least = toByte(LEAST_HEAT);
  const found: WitnessedSpeck[] = [];
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      const own = heats[i];
      if (own < least) continue;
      // Of two that are alike the first counts.
      const isPeak =
        own > heats[i - width - 1] &&
        own > heats[i - width] &&
        own > heats[i - width + 1] &&
        own > heats[i - 1] &&
        own >= heats[i + 1] &&
        own >= heats[i + width - 1] &&
        own >= heats[i + width] &&
        own >= heats[i + width + 1];
      if (!isPeak) continue;
      const r = Math.max(1, Math.exp(mapAt(maps, 'logRadius', x, y)));
      found.push({ polarity, x: 2 * x + 1, y: 2 * y + 1, r, heat: mapAt(maps, CENTRE[polarity], x, y) });
    }
  return found;
}

/** What a net says of a place that a finder found. */
export interface WitnessedPlace {
  /** Of the nearest centres the likeliest, in log-odds; of its polarity, and of the other. */
  readonly heat: number;
  readonly otherHeat: number;
  /** The logarithm of the radius that the net sees there, over the one that was found. */
  readonly radiusRatio: number;
  /** Mean log-odds of lying on a speck of its polarity, over the disc, and over a ring around it. */
  readonly inside: number;
  readonly around: number;
  /** Mean log-odds of lying on a line, over the disc. */
  readonly line: number;
}

const other = (polarity: Polarity): Polarity => (polarity === 'dark' ? 'bright' : 'dark');

/** A disc in pixels of the maps. */
interface MapDisc {
  readonly x: number;
  readonly y: number;
  readonly r: number;
}

/** Calls back for the pixels of the maps around a disc, with how far each lies from its middle. */
function overMaps(
  { x, y }: MapDisc,
  reach: number,
  visit: (px: number, py: number, away: number) => void,
): void {
  for (let py = Math.floor(y - reach); py <= y + reach; py++)
    for (let px = Math.floor(x - reach); px <= x + reach; px++) visit(px, py, Math.hypot(px - x, py - y));
}

/** The likeliest centre near the middle of a disc. */
function centreNear(
  maps: WitnessMaps,
  disc: MapDisc,
  polarity: Polarity,
): Pick<WitnessedPlace, 'heat' | 'otherHeat'> & { readonly logRadius: number } {
  let [heat, otherHeat, logRadius] = [UNLIKELIEST, UNLIKELIEST, 0];
  const near = Math.max(1, 0.5 * disc.r);
  overMaps(disc, near, (px, py, away) => {
    if (away > near) return;
    const own = mapAt(maps, CENTRE[polarity], px, py);
    if (own > heat) {
      heat = own;
      logRadius = mapAt(maps, 'logRadius', px, py);
    }
    otherHeat = Math.max(otherHeat, mapAt(maps, CENTRE[other(polarity)], px, py));
  });
  return { heat, otherHeat, logRadius };
}

/** The mean of a map over a ring; over the disc where it begins at 0. @param from and `to` in radii */
function meanOver(maps: WitnessMaps, map: WitnessMap, disc: MapDisc, from: number, to: number): number {
  let [sum, count] = [0, 0];
  overMaps(disc, to * disc.r, (px, py, away) => {
    if (away < from * disc.r || away > to * disc.r) return;
    sum += mapAt(maps, map, px, py);
    count++;
  });
  return count > 0 ? sum / count : UNLIKELIEST;
}

/** Reads the maps at a disc of the picture. */
export function witnessedPlace(
  maps: WitnessMaps,
  { x, y, r, polarity }: MapDisc & { readonly polarity: Polarity },
): WitnessedPlace {
  const disc = { x: x / 2 - 0.5, y: y / 2 - 0.5, r: Math.max(0.75, r / 2) };
  const { heat, otherHeat, logRadius } = centreNear(maps, disc, polarity);
  return {
    ...{ heat, otherHeat, radiusRatio: logRadius - Math.log(Math.max(1, r)) },
    inside: meanOver(maps, DISC[polarity], disc, 0, 1),
    around: meanOver(maps, DISC[polarity], disc, 1.3, 1.9),
    line: meanOver(maps, 'line', disc, 0, 1),
  };
}
