import type { FramingDescription } from '../finishDescription.ts';
import type { CropStep } from './cropStep.ts';

export const cropDescription: FramingDescription<CropStep> = {
  name: 'crop',
  does: 'keeps a part of the picture, in whole pixels of the picture as it lies after lens and straightening',
  frames: true,
  fields: {
    left: {
      kind: 'number',
      says: 'first column',
      unit: 'pixels',
      least: -Infinity,
      most: Infinity,
      isWhole: true,
    },
    top: {
      kind: 'number',
      says: 'first row',
      unit: 'pixels',
      least: -Infinity,
      most: Infinity,
      isWhole: true,
    },
    width: { kind: 'number', says: 'columns', unit: 'pixels', least: 1, most: Infinity, isWhole: true },
    height: { kind: 'number', says: 'rows', unit: 'pixels', least: 1, most: Infinity, isWhole: true },
  },
  carried: 'never',
  // A crop may reach beyond the picture, as far as a turned one lies.
  check: ({ left, top, width, height }, picture) => {
    const most = Math.ceil(Math.hypot(picture.width, picture.height));
    if (width > most) return { place: 'width', reason: `must be at most ${most}` };
    if (height > most) return { place: 'height', reason: `must be at most ${most}` };
    if (left > most || left + width < -most) return { place: 'left', reason: 'lies off the picture' };
    if (top > most || top + height < -most) return { place: 'top', reason: 'lies off the picture' };
    return null;
  },
};
