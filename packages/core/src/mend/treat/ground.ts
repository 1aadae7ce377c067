import type { PictureShape, Raster } from '../../raster/raster.ts';
import type { Rect } from '../../raster/rect.ts';

/** What a treatment looks at: its piece and what lies around it, with what fences keep filled in from beside. */
export interface Ground {
  /** The rectangle of the picture that the raster holds. */
  readonly rect: Rect;
  readonly raster: Raster;
  /** 1 where a fence lets nothing be taken from; none where no fence has a say. */
  readonly excluded: Uint8Array | null;
  readonly picture: PictureShape;
}
