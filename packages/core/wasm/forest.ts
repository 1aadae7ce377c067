// Trees of a forest, one after the other over all samples: a tree stays near at hand while thousands are led through it.

// A node: a threshold, the offset of the trait that is held against it, and the offset in `nodes` of the node for values
// above; the one for all others follows it. A leaf holds what is always above its threshold against it and leads to itself;
// what it is worth stands in a table of its own.
const TRAIT: usize = 8;
const ABOVE: usize = 12;
const NODE: usize = 16;

/** The node that follows one for a sample. */
function next(nodes: usize, node: usize, values: usize): usize {
  const isAbove = load<f64>(values + load<u32>(node, TRAIT)) > load<f64>(node);
  return select<usize>(nodes + <usize>load<u32>(node, ABOVE), node + NODE, isAbove);
}

function addLeaf(sum: usize, leaf: usize, nodes: usize, worths: usize): void {
  store<f64>(sum, load<f64>(sum) + load<f64>(worths + ((leaf - nodes) >> 1)));
}

/**
 * Adds the leaves that every sample reaches to its sum. Four samples go down a tree side by side, all of them as far as its
 * deepest leaf: none waits for what another one meets.
 *
 * @param worths a 64-bit float for each node
 * @param roots a 32-bit offset in `nodes` for each tree, `depths` how many steps down its deepest leaf lies
 * @param traits 64-bit floats, row after row of `width`
 * @param samples a multiple of four
 * @param sums a 64-bit float for each sample
 */
export function addLeaves(
  nodes: usize,
  worths: usize,
  roots: usize,
  depths: usize,
  trees: i32,
  traits: usize,
  width: i32,
  samples: i32,
  sums: usize,
): void {
  const row: usize = width << 3;
  for (let t = 0; t < trees; t++) {
    const root = nodes + <usize>load<u32>(roots + (t << 2));
    const depth = load<i32>(depths + (t << 2));
    let values = traits;
    for (let s = 0; s < samples; s += 4) {
      let a = root;
      let b = root;
      let c = root;
      let d = root;
      for (let step = 0; step < depth; step++) {
        a = next(nodes, a, values);
        b = next(nodes, b, values + row);
        c = next(nodes, c, values + 2 * row);
        d = next(nodes, d, values + 3 * row);
      }
      const sum = sums + (s << 3);
      addLeaf(sum, a, nodes, worths);
      addLeaf(sum + 8, b, nodes, worths);
      addLeaf(sum + 16, c, nodes, worths);
      addLeaf(sum + 24, d, nodes, worths);
      values += 4 * row;
    }
  }
}
