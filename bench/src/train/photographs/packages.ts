/** A package of Debian 12 that holds photographs among other pictures. */
export interface PhotographPackage {
  readonly name: string;
  /** Files of it that are looked at; the list of photographs says which are taken. */
  readonly files: RegExp;
}

/** Fetched and unpacked, never installed and never committed. */
export const PHOTOGRAPH_PACKAGES: readonly PhotographPackage[] = [
  {
    name: 'lomiri-wallpapers-16.04',
    files: /backgrounds\/.*\.jpg$/,
  },
  {
    name: 'lomiri-wallpapers-20.04',
    files: /backgrounds\/.*\.jpg$/,
  },
  { name: 'mate-backgrounds', files: /nature\/.*\.jpg$/ },
  {
    name: 'plasma-workspace-wallpapers',
    files: /images\/(1920x1080|2560x1600|5120x2880|3840x2160)\.(jpg|png)$/,
  },
  {
    name: 'stellarium-data',
    files: /landscapes\/.*\.(png|jpg)$/,
  },
  { name: 'gcompris-qt-data', files: /\.rcc$/ },
];
