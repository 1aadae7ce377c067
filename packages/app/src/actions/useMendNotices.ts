import { allowanceOn } from '@fennip/core/fence';
import { isTreatment, sourceOf } from '@fennip/core/mend';
import type { Mend } from '@fennip/core/mend';
import { intersectRects } from '@fennip/core/raster';
import { targetBounds } from '@fennip/core/target';
import { usePicture } from '../stores/picture.ts';
import { say } from '../i18n/say.ts';

/** Less than this of a source outside the picture is not worth a word, in pixels: an edge fit moves it by parts of one. */
const LEAST_OUT = 1;

/** Says what a mend could not do. */
export function useMendNotices() {
  const picture = usePicture();

  /** What would take all from beyond the picture lays nothing down: there is nothing to make of it. */
  function tellOfNoSource(): void {
    picture.notice = say('notice.sourceBeyond');
  }

  /** Where a source leaves the picture, or a fence stops a mend, nothing is laid down, and that is said. */
  function tellWhatIsMissing(mend: Mend): void {
    const source = sourceOf(mend);
    const sheet = picture.picture;
    if (!sheet) return;
    if (isTreatment(mend)) return;
    const whole = { left: 0, top: 0, width: sheet.width, height: sheet.height };
    // What of the mend itself lies outside is no loss.
    const bounds = intersectRects(targetBounds(mend.target, mend.margin + mend.edge), whole);
    const { left, top, width, height } = bounds;
    const isOut = (from: number, length: number, shift: number, most: number): boolean =>
      from + shift < -LEAST_OUT || from + shift + length > most + LEAST_OUT;
    if (source && (isOut(left, width, source.dx, sheet.width) || isOut(top, height, source.dy, sheet.height)))
      picture.notice = say('notice.sourceOutside');
    if (allowanceOn(picture.fences, mend.zone, bounds, sheet)?.some((share) => share < 1))
      picture.notice = say('notice.fenceStops');
  }

  return { tellOfNoSource, tellWhatIsMissing };
}
