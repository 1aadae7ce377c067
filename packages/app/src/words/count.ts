/** "1 speck", "12 specks". */
export const count = (n: number, one: string, many = `${one}s`): string =>
  `${n.toLocaleString('en')} ${n === 1 ? one : many}`;

/** Bytes as a person reads them. */
export function bytes(n: number): string {
  if (n < 1e6) return `${Math.max(1, Math.round(n / 1e3))} kB`;
  return n < 1e9 ? `${(n / 1e6).toFixed(1)} MB` : `${(n / 1e9).toFixed(2)} GB`;
}

export const megapixels = (width: number, height: number): string => {
  const millions = (width * height) / 1e6;
  return `${millions.toFixed(millions < 10 ? 1 : 0)} megapixels`;
};

export const percent = (share: number): string => `${Math.round(100 * share)} %`;

export const capital = (word: string): string => word.charAt(0).toUpperCase() + word.slice(1);
