// The colours of a picture: planes of 8-bit or 16-bit samples, row after row without gaps. All offsets are bytes.

/** The number of the pixel under a place; beyond the border the nearest one counts. */
export function pixelUnder(width: i32, height: i32, x: f64, y: f64): usize {
  const column = max(0, min(width - 1, <i32>floor(x)));
  const row = max(0, min(height - 1, <i32>floor(y)));
  return <usize>(row * width + column);
}

export function sampleOf(channel: usize, isWide: bool, pixel: usize): i32 {
  return isWide ? <i32>load<u16>(channel + (pixel << 1)) : <i32>load<u8>(channel + pixel);
}
