import type { Picture } from '@fennip/contract';
import { say } from '../../i18n/say.ts';

/** Pictures that belong together: frames of one camera, or the prints. */
export interface PictureGroup {
  readonly name: string;
  readonly pictures: readonly Picture[];
  readonly ids: readonly string[];
}

/** The ready pictures of a job by camera; those that are set aside are left out. */
export function groupsOf(pictures: readonly Picture[]): PictureGroup[] {
  const groups = new Map<string, Picture[]>();
  for (const picture of pictures) {
    if (picture.state !== 'ready' || picture.setAside) continue;
    const name = picture.camera ?? say(picture.nature === 'print' ? 'series.prints' : 'series.unknownCamera');
    groups.set(name, [...(groups.get(name) ?? []), picture]);
  }
  return [...groups].map(([name, own]) => ({ name, pictures: own, ids: own.map(({ id }) => id) }));
}
