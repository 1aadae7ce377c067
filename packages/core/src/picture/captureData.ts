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
  /** Local time of the camera, `YYYY-MM-DDThh:mm:ss`. */
  readonly takenAt?: string;
}
