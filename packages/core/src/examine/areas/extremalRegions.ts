import type { Polarity } from '../../fault/fault.ts';

/** A connected set of pixels, all at most (dark) or at least (bright) at a threshold, that hardly grows beyond it. */
export interface ExtremalRegion {
  readonly polarity: Polarity;
  /** Values on this side of it belong to the region. */
  readonly threshold: number;
  /** One of its pixels. */
  readonly seed: number;
  /** In pixels. */
  readonly area: number;
  /** By what share of its area it grows when the threshold gives way by {@link RegionLimits.step}. */
  readonly growth: number;
}

export interface RegionLimits {
  /** In pixels. */
  readonly least: number;
  readonly most: number;
  /** By how much the threshold gives way, in codes of 255. */
  readonly step: number;
  /** A region that grows by more is no object of its own. */
  readonly mostGrowth: number;
}

/** Of regions inside one another whose areas differ by less than this factor only the steadiest counts. */
const AS_LARGE = 1.4;

/** The tree of all connected components of all thresholds, from dark to bright. */
interface ComponentTree {
  /** For each pixel, one of the component's pixels at the next threshold; roots point at themselves. */
  readonly parent: Int32Array;
  readonly area: Int32Array;
  /** The pixels that stand for a component, smallest components first. */
  readonly nodes: readonly number[];
}

/** Pixels by their values, darkest first. */
function sorted(values: Uint8Array): Int32Array {
  const starts = new Int32Array(257);
  for (const value of values) starts[value + 1]++;
  for (let v = 0; v < 256; v++) starts[v + 1] += starts[v];
  const order = new Int32Array(values.length);
  for (let i = 0; i < values.length; i++) order[starts[values[i]]++] = i;
  return order;
}

/** Union-find over sorted pixels (Najman and Couprie 2006; Berger et al. 2007). */
function componentTree(values: Uint8Array, width: number): ComponentTree {
  const count = values.length;
  const order = sorted(values);
  const parent = new Int32Array(count).fill(-1);
  const root = new Int32Array(count);
  const area = new Int32Array(count);
  const find = (start: number): number => {
    let i = start;
    while (root[i] !== i) {
      root[i] = root[root[i]];
      i = root[i];
    }
    return i;
  };
  const join = (i: number, neighbour: number): void => {
    if (parent[neighbour] < 0) return;
    const other = find(neighbour);
    if (other === i) return;
    parent[other] = i;
    root[other] = i;
    area[i] += area[other];
  };
  for (const i of order) {
    parent[i] = i;
    root[i] = i;
    area[i] = 1;
    const x = i % width;
    if (x > 0) join(i, i - 1);
    if (x < width - 1) join(i, i + 1);
    if (i >= width) join(i, i - width);
    if (i + width < count) join(i, i + width);
  }
  const nodes: number[] = [];
  for (let k = count - 1; k >= 0; k--) {
    const i = order[k];
    const above = parent[i];
    if (values[parent[above]] === values[above]) parent[i] = parent[above];
    if (parent[i] === i || values[parent[i]] !== values[i]) nodes.push(i);
  }
  return { parent, area, nodes: nodes.reverse() };
}

/** The steady regions that are darker than their surroundings. */
function darkRegions(values: Uint8Array, width: number, limits: RegionLimits) {
  const { parent, area, nodes } = componentTree(values, width);
  const growthOf = (node: number): number => {
    let above = node;
    while (parent[above] !== above && values[parent[above]] <= values[node] + limits.step)
      above = parent[above];
    return (area[above] - area[node]) / area[node];
  };
  const fitting = nodes.filter((node) => area[node] >= limits.least && area[node] <= limits.most);
  const growth = new Map(fitting.map((node) => [node, growthOf(node)]));
  const steady = fitting.filter((node) => (growth.get(node) ?? Infinity) <= limits.mostGrowth);
  // Along each branch only the steadiest of what is about as large.
  const beaten = new Set<number>();
  for (const node of steady) {
    const own = growth.get(node) ?? Infinity;
    for (let above = parent[node]; area[above] <= AS_LARGE * area[node]; above = parent[above]) {
      const others = growth.get(above);
      if (others !== undefined && others <= limits.mostGrowth) beaten.add(others <= own ? node : above);
      if (parent[above] === above) break;
    }
  }
  return steady
    .filter((node) => !beaten.has(node))
    .map((node) => ({
      threshold: values[node],
      seed: node,
      area: area[node],
      growth: growth.get(node) ?? 0,
    }));
}

/**
 * Finds maximally stable extremal regions (Matas, Chum, Urban, Pajdla 2002), dark ones and bright ones: parts of a
 * plane that stand out from all that is around them whatever the exact threshold.
 *
 * @param values row after row without gaps
 */
export function extremalRegions(values: Uint8Array, width: number, limits: RegionLimits): ExtremalRegion[] {
  const dark = darkRegions(values, width, limits);
  const bright = darkRegions(
    values.map((value) => 255 - value),
    width,
    limits,
  );
  return [
    ...dark.map((region): ExtremalRegion => ({ polarity: 'dark', ...region })),
    ...bright.map((region): ExtremalRegion => ({
      ...region,
      polarity: 'bright',
      threshold: 255 - region.threshold,
    })),
  ];
}
