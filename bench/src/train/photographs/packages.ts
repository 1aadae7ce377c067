/** A package of Debian 12 that holds photographs among other pictures. */
export interface PhotographPackage {
  readonly name: string;
  /** Files of it that are looked at; the list of photographs says which are taken. */
  readonly files: RegExp;
  /** As its `copyright` file has it. */
  readonly licence: string;
}

/** Fetched and unpacked, never installed and never committed. */
export const PHOTOGRAPH_PACKAGES: readonly PhotographPackage[] = [
  {
    name: 'lomiri-wallpapers-16.04',
    files: /backgrounds\/.*\.jpg$/,
    licence: 'CC BY-SA 3.0 and CC BY-SA 2.0, each by its photographer',
  },
  {
    name: 'lomiri-wallpapers-20.04',
    files: /backgrounds\/.*\.jpg$/,
    licence: 'CC BY-SA 4.0, each by its photographer',
  },
  { name: 'mate-backgrounds', files: /nature\/.*\.jpg$/, licence: 'GPL-2+ and CC BY-SA 3.0' },
  {
    name: 'plasma-workspace-wallpapers',
    files: /images\/(1920x1080|2560x1600|5120x2880|3840x2160)\.(jpg|png)$/,
    licence: 'LGPL-3 and CC BY-SA 4.0',
  },
  {
    name: 'stellarium-data',
    files: /landscapes\/.*\.(png|jpg)$/,
    licence: 'GPL-2+, CC BY-SA and public domain, each by its author',
  },
  { name: 'gcompris-qt-data', files: /\.rcc$/, licence: 'GPL-3+, CC BY-SA, CC0 and public domain' },
];
