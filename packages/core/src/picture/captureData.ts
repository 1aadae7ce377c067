/** What a camera wrote about the moment of capture. */
export interface CaptureData {
  readonly camera?: string;
  readonly lens?: string;
  readonly fNumber?: number;
  /** Seconds. */
  readonly exposureTime?: number;
  readonly iso?: number;
  /** Millimetres. */
  readonly focalLengthMm?: number;
  /** How the camera was held, 1 to 8 as Exif numbers it; level where it is missing. */
  readonly orientation?: number;
  /** Local time of the camera, `YYYY-MM-DDThh:mm:ss`. */
  readonly takenAt?: string;
}
