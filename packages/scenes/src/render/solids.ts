/** Signed distances to simple solids about the origin, in metres; below 0 is inside. */

export function box(x: number, y: number, z: number, hx: number, hy: number, hz: number, round = 0): number {
  const qx = Math.abs(x) - hx + round;
  const qy = Math.abs(y) - hy + round;
  const qz = Math.abs(z) - hz + round;
  const [ox, oy, oz] = [Math.max(qx, 0), Math.max(qy, 0), Math.max(qz, 0)];
  return Math.sqrt(ox * ox + oy * oy + oz * oz) + Math.min(Math.max(qx, qy, qz), 0) - round;
}

/** A cylinder along the third axis given. */
export function cylinder(
  across1: number,
  across2: number,
  along: number,
  radius: number,
  half: number,
): number {
  const d = Math.sqrt(across1 * across1 + across2 * across2) - radius;
  const e = Math.abs(along) - half;
  const [od, oe] = [Math.max(d, 0), Math.max(e, 0)];
  return Math.sqrt(od * od + oe * oe) + Math.min(Math.max(d, e), 0);
}

/** A rod with round ends between two points. */
export function rod(
  x: number,
  y: number,
  z: number,
  ax: number,
  ay: number,
  az: number,
  bx: number,
  by: number,
  bz: number,
  radius: number,
): number {
  const [dx, dy, dz] = [bx - ax, by - ay, bz - az];
  const along = ((x - ax) * dx + (y - ay) * dy + (z - az) * dz) / (dx * dx + dy * dy + dz * dz);
  const t = Math.min(1, Math.max(0, along));
  return Math.hypot(x - ax - t * dx, y - ay - t * dy, z - az - t * dz) - radius;
}

export function ellipsoid(x: number, y: number, z: number, rx: number, ry: number, rz: number): number {
  const k = Math.hypot(x / rx, y / ry, z / rz);
  return (k - 1) * Math.min(rx, ry, rz);
}

/** The spoked wheel of a railway vehicle: rim, hub and spokes in the plane of the first two axes. */
export function wheel(x: number, y: number, z: number, radius: number): number {
  const d = Math.sqrt(x * x + y * y);
  const tread = Math.max(Math.abs(d - radius * 0.9) - radius * 0.1, Math.abs(z) - 0.06);
  const hub = Math.max(d - radius * 0.18, Math.abs(z) - 0.08);
  const turn = Math.PI / 4;
  const angle = Math.atan2(y, x);
  const folded = angle - turn * Math.round(angle / turn);
  const spoke = Math.max(Math.abs(d * Math.sin(folded)) - radius * 0.05, d - radius, Math.abs(z) - 0.03);
  return Math.min(tread, hub, spoke);
}
