import type { Treatment } from '@fennip/core/mend';
import { noiseAt } from '@fennip/core/grain';
import type { WordKey } from '../words/say.ts';

/** A number of a treatment, as it is shown and set. */
export interface TreatNumber {
  readonly kind: 'number';
  readonly name:
    | 'radius'
    | 'threshold'
    | 'detail'
    | 'strength'
    | 'exposure'
    | 'contrast'
    | 'contrastSize'
    | 'hue'
    | 'saturation'
    | 'lightness'
    | 'sigma'
    | 'along'
    | 'dx'
    | 'dy'
    | 'fade'
    | 'share';
  readonly unit: WordKey;
  readonly least: number;
  readonly most: number;
  readonly step: number;
  readonly value: number;
  readonly set: (value: number) => Treatment;
}

/** A choice of a treatment. */
export interface TreatChoice {
  readonly kind: 'choice';
  readonly name: 'polarity' | 'range' | 'keeps';
  readonly value: string;
  readonly options: readonly string[];
  readonly choose: (value: string) => Treatment;
}

export type TreatField = TreatNumber | TreatChoice;

const number = (
  name: TreatNumber['name'],
  unit: WordKey,
  [least, most, step]: readonly [number, number, number],
  value: number,
  set: (value: number) => Treatment,
): TreatNumber => ({ kind: 'number', name, unit, least, most, step, value, set });

function choice<Option extends string>(
  name: TreatChoice['name'],
  options: readonly Option[],
  value: Option,
  choose: (value: Option) => Treatment,
): TreatChoice {
  const known = (wanted: string): Option => options.find((option) => option === wanted) ?? value;
  return { kind: 'choice', name, value, options, choose: (wanted) => choose(known(wanted)) };
}

const PIXELS: WordKey = 'unit.pixels';
const PERCENT: WordKey = 'unit.percent';

/** What of a treatment can be set, in the order it is shown. */
export function treatFields(mend: Treatment): TreatField[] {
  const share = number('share', PERCENT, [0, 100, 5], Math.round(mend.share * 100), (value) => ({
    ...mend,
    share: value / 100,
  }));
  switch (mend.method) {
    case 'return':
      return [share];
    case 'sift':
      return [
        number('radius', PIXELS, [1, 60, 1], mend.radius, (radius) => ({ ...mend, radius })),
        number('threshold', 'unit.noise', [0, 40, 0.5], mend.threshold, (threshold) => ({
          ...mend,
          threshold,
        })),
        choice('polarity', ['bright', 'dark', 'both'], mend.polarity, (polarity) => ({ ...mend, polarity })),
        number('detail', PIXELS, [0, 300, 5], mend.detail, (detail) => ({ ...mend, detail })),
        share,
      ];
    case 'regrain':
      return [
        number('strength', PERCENT, [0, 200, 5], Math.round(mend.strength * 100), (value) => ({
          ...mend,
          strength: value / 100,
        })),
        share,
      ];
    case 'tone':
      return [
        number('exposure', 'unit.stops', [-2, 2, 0.05], mend.exposure, (exposure) => ({ ...mend, exposure })),
        choice('range', ['all', 'shadows', 'midtones', 'highlights'], mend.range, (range) => ({
          ...mend,
          range,
        })),
        number('contrast', PERCENT, [-100, 200, 5], Math.round(mend.contrast * 100), (value) => ({
          ...mend,
          contrast: value / 100,
        })),
        number('contrastSize', PIXELS, [1, 100, 1], mend.contrastSize, (contrastSize) => ({
          ...mend,
          contrastSize,
        })),
        number('hue', 'unit.degrees', [-180, 180, 1], mend.hue, (hue) => ({ ...mend, hue })),
        number('saturation', PERCENT, [0, 300, 5], Math.round(mend.saturation * 100), (value) => ({
          ...mend,
          saturation: value / 100,
        })),
        number('lightness', 'unit.lightness', [-50, 50, 1], mend.lightness, (lightness) => ({
          ...mend,
          lightness,
        })),
        share,
      ];
    case 'soften':
      return [
        number('sigma', PIXELS, [0.2, 60, 0.2], mend.sigma, (sigma) => ({ ...mend, sigma })),
        number(
          'along',
          'unit.degrees',
          [-1, 180, 1],
          mend.along === null ? -1 : Math.round((mend.along * 180) / Math.PI),
          (value) => ({ ...mend, along: value < 0 ? null : (value * Math.PI) / 180 }),
        ),
        share,
      ];
    case 'draw':
      return [
        number('fade', PIXELS, [0, 200, 1], mend.fade, (fade) => ({ ...mend, fade })),
        number('strength', PERCENT, [0, 200, 5], Math.round(mend.strength * 100), (value) => ({
          ...mend,
          strength: value / 100,
        })),
        share,
      ];
    case 'match':
      return [share];
    case 'shift':
      return [
        number('dx', PIXELS, [-100, 100, 1], mend.dx, (dx) => ({ ...mend, dx })),
        number('dy', PIXELS, [-100, 100, 1], mend.dy, (dy) => ({ ...mend, dy })),
        choice('keeps', ['lighter', 'darker'], mend.keeps, (keeps) => ({ ...mend, keeps })),
        share,
      ];
  }
}

/** The level of 255 that a sift's threshold comes to, in the darkest and in the lightest tones. */
export function thresholdLevels(mend: Extract<Treatment, { method: 'sift' }>): {
  dark: number;
  light: number;
} {
  const level = (brightness: number): number => mend.threshold * noiseAt(mend.noise, brightness) * 255;
  return { dark: level(0.1), light: level(0.9) };
}
