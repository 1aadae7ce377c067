import { locale } from './language.ts';
import { say } from './say.ts';

/** Bytes as a person reads them. */
export function bytes(n: number): string {
  if (n < 1e6) return say('figure.kilobytes', { n: Math.max(1, Math.round(n / 1e3)) });
  return n < 1e9
    ? say('figure.megabytes', { n: (n / 1e6).toFixed(1) })
    : say('figure.gigabytes', { n: (n / 1e9).toFixed(2) });
}

export const megapixels = (width: number, height: number): string => {
  const millions = (width * height) / 1e6;
  return say('figure.megapixels', { n: millions.toFixed(millions < 10 ? 1 : 0) });
};

export const percent = (share: number): string => say('figure.percent', { n: Math.round(100 * share) });

export const capital = (word: string): string => word.charAt(0).toUpperCase() + word.slice(1);

/** The day of a time, as a person reads it; a dash where none is known. */
export const dayOf = (time: string | null): string =>
  time === null ? '–' : new Date(time).toLocaleDateString(locale, { dateStyle: 'medium' });

/** The time of day, by 24 hours. */
export const timeOf = (time: string): string =>
  new Date(time).toLocaleTimeString(locale, { hour: '2-digit', minute: '2-digit', hour12: false });
