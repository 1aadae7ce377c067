import { NET_PARTS, NET_SHAPES, NET_SIZE } from './netLayers.ts';

/**
 * What a net begins with: as much noise as keeps what goes through alike in size (He, Zhang, Ren, Sun 2015).
 *
 * @param gaussian numbers of spread 1
 */
export function untaughtNet(gaussian: () => number): Float32Array {
  const numbers = new Float32Array(NET_SIZE);
  NET_SHAPES.forEach(([inputs], k) => {
    const { weights, bias } = NET_PARTS[k];
    const spread = Math.sqrt(2 / inputs);
    for (let i = weights; i < bias; i++) numbers[i] = spread * gaussian();
  });
  return numbers;
}
