import type { CaptureData } from '../../picture/captureData.ts';
import type { PictureNature } from './nature.ts';
import type { PrintSigns } from './printSigns.ts';

/** What is known of a picture when it comes in. */
export interface NatureEvidence {
  readonly capture: CaptureData;
  /** Pixels per inch, where the file says so. */
  readonly density?: number | null;
  /** Pixels. */
  readonly width: number;
  readonly height: number;
  /** From its values; missing where only the header was read. */
  readonly signs?: PrintSigns;
}

/** A scanner says its resolution, and cameras write 72, 96 or nothing, or, developed, 240 or 300 beside the exposure. */
const LEAST_SCAN_PPI = 150;
/** Cameras write sides that are multiples of this; a scan is as wide as it was cut. */
const CAMERA_MULTIPLE = 8;
const CAMERA_RATIOS = [3 / 2, 4 / 3, 16 / 9, 1];
const RATIO_ERROR = 0.005;
/** What lies on a scanner's glass is no larger, in inches: A3 and a little. A resolution that makes it larger is no scanner's. */
const GLASS = { longer: 17.5, shorter: 12.5 };

/**
 * How much each clue speaks for a print, in log-odds; negative speaks for a frame. Set by hand; the bench of natures has
 * the cases that they were measured on.
 */
const WEIGHT = {
  /** Before anything is known: most pictures of a job that say nothing are frames. */
  before: -0.5,
  /** An aperture or an exposure time is written by cameras alone. */
  exposure: -6,
  /** A body or scanner is named, but no exposure. */
  camera: -0.5,
  scanDensity: 2,
  border: 2.5,
  monochrome: 2,
  faded: 0.4,
  cameraSides: -1,
} as const;

function hasCameraSides(width: number, height: number): boolean {
  const ratio = Math.max(width, height) / Math.min(width, height);
  return (
    width % CAMERA_MULTIPLE === 0 &&
    height % CAMERA_MULTIPLE === 0 &&
    CAMERA_RATIOS.some((known) => Math.abs(ratio / known - 1) <= RATIO_ERROR)
  );
}

function isScanDensity(ppi: number, width: number, height: number): boolean {
  const [longer, shorter] = [Math.max(width, height) / ppi, Math.min(width, height) / ppi];
  return ppi >= LEAST_SCAN_PPI && longer <= GLASS.longer && shorter <= GLASS.shorter;
}

/**
 * Whether a picture is a camera frame or a scanned print, by what its file and its values show.
 *
 * @param density pixels per inch that the file names, null where it names none; `width` and `height` in pixels
 */
export function guessNature({ capture, density, width, height, signs }: NatureEvidence): PictureNature {
  let odds: number = WEIGHT.before;
  const hasExposure = capture.fNumber !== undefined || capture.exposureTime !== undefined;
  if (hasExposure) odds += WEIGHT.exposure;
  else if (capture.camera !== undefined) odds += WEIGHT.camera;
  if (isScanDensity(density ?? 0, width, height)) odds += WEIGHT.scanDensity;
  if (hasCameraSides(width, height)) odds += WEIGHT.cameraSides;
  if (signs?.hasBorder) odds += WEIGHT.border;
  if (signs?.isMonochrome) odds += WEIGHT.monochrome;
  if (signs?.isFaded) odds += WEIGHT.faded;
  return odds > 0 ? 'print' : 'frame';
}
