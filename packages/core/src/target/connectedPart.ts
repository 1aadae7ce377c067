/** All pixels that hang together with the first one (eight neighbours), as indices; they are noted as seen. */
export function connectedPart(start: number, marks: Uint8Array, seen: Uint8Array, width: number): number[] {
  const height = marks.length / width;
  const part = [start];
  seen[start] = 1;
  for (let next = 0; next < part.length; next++) {
    const [x, y] = [part[next] % width, Math.floor(part[next] / width)];
    for (let ny = Math.max(0, y - 1); ny <= Math.min(height - 1, y + 1); ny++)
      for (let nx = Math.max(0, x - 1); nx <= Math.min(width - 1, x + 1); nx++) {
        const i = ny * width + nx;
        if (!marks[i] || seen[i]) continue;
        seen[i] = 1;
        part.push(i);
      }
  }
  return part;
}
