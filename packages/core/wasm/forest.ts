// Trees of a forest, one after the other over all samples: a tree stays near at hand while thousands are led through it.

/** Bytes of a node: threshold or value (64-bit float), offset of the trait or -1, offset in `nodes` of the one for values above. */
const NODE: usize = 16;

/**
 * Adds the leaves that every sample reaches to its sum.
 *
 * @param roots a 32-bit offset in `nodes` for each tree
 * @param traits 64-bit floats, row after row of `width`
 * @param sums a 64-bit float for each sample
 */
export function addLeaves(
  nodes: usize,
  roots: usize,
  trees: i32,
  traits: usize,
  width: i32,
  samples: i32,
  sums: usize,
): void {
  const row: usize = width << 3;
  for (let t = 0; t < trees; t++) {
    const root = nodes + <usize>load<u32>(roots + (t << 2));
    for (let s = 0; s < samples; s++) {
      const values = traits + s * row;
      let node = root;
      let trait = load<i32>(node, 8);
      while (trait >= 0) {
        const isAbove = load<f64>(values + trait) > load<f64>(node);
        node = select<usize>(nodes + <usize>load<u32>(node, 12), node + NODE, isAbove);
        trait = load<i32>(node, 8);
      }
      const sum = sums + (s << 3);
      store<f64>(sum, load<f64>(sum) + load<f64>(node));
    }
  }
}
