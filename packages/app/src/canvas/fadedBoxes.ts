import type { MarkScene } from './drawMark.ts';
import { FADE_FAR, fadeOf, isDrafted, isLine, isNamed, shownTarget } from './drawMark.ts';
import { markHalf } from './drawTarget.ts';
import type { Box } from './markBoxes.ts';
import { boxAround, markBoxes } from './markBoxes.ts';

/** The largest radius, in pixels of the picture, whose mark is looked for around the pointer. */
const LARGE = 60;

/** How far a mark reaches beyond its ticks, with the whole pixels that its box is made of; in screen pixels. */
const MARK_SLOP = 10;

const doMeet = (a: Box, b: Box): boolean =>
  a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom;

/** The parts of the screen with the marks that the pointer makes fade: of a line only what lies near it. */
export function fadedBoxes(scene: MarkScene): Box[] {
  if (!scene.pointer) return [];
  const [x, y] = scene.pointer;
  const around = (reach: number): Box => ({
    left: Math.floor(x - reach),
    top: Math.floor(y - reach),
    right: Math.ceil(x + reach),
    bottom: Math.ceil(y + reach),
  });
  const fading = around(FADE_FAR);
  const reached = around(FADE_FAR + markHalf(LARGE, scene.view.scale));
  const boxes = scene
    .within(reached.left, reached.top, reached.right, reached.bottom)
    .filter((entry) => !isDrafted(scene, entry))
    .flatMap((entry) => {
      if (!isLine(shownTarget(entry, scene))) return fadeOf(scene, entry) < 1 ? markBoxes(scene, entry) : [];
      if (isNamed(scene, entry)) return [];
      return markBoxes(scene, entry).some((box) => doMeet(box, fading)) ? [fading] : [];
    });
  // A crowd is one part, with those at its border; a mark that is larger than it is not.
  const crowd = around(FADE_FAR + 2 * markHalf(LARGE, scene.view.scale, MARK_SLOP));
  const isNear = ({ left, top, right, bottom }: Box): boolean =>
    left >= crowd.left && top >= crowd.top && right <= crowd.right && bottom <= crowd.bottom;
  const near = boxes.filter(isNear);
  return [...boxes.filter((box) => !isNear(box)), ...(near.length > 0 ? [boxAround(near)] : [])];
}
