/** The sum of four 32-bit floats, in pairs. */
export function sumOf(lanes: v128): f64 {
  const left = <f64>f32x4.extract_lane(lanes, 0) + <f64>f32x4.extract_lane(lanes, 1);
  return left + (<f64>f32x4.extract_lane(lanes, 2) + <f64>f32x4.extract_lane(lanes, 3));
}
