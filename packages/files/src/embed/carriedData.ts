/** What a picture file carries beside its pixels. */
export interface CarriedData {
  /** The ICC profile the pixel values are in; none means sRGB (grey: its grey). */
  readonly icc?: Buffer;
  /** An Exif block as the standard (CIPA DC-008) lays it out, from its TIFF header on, orientation as in the file. */
  readonly exif?: Buffer;
  /** Pixels per inch. */
  readonly density?: number;
  /** An XMP packet (ISO 16684-1), as text. */
  readonly xmp?: string;
  /** An IPTC record (IIM 4.2), from its first marker on. */
  readonly iptc?: Buffer;
}
