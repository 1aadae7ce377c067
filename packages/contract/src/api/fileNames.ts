/** What no file system takes, or what would lead out of the folder. */
const FORBIDDEN = /[\u0000-\u001f\u007f<>:"/\\|?*]/g;

const withoutEnding = (name: string): string => name.replace(/\.[^.]*$/, '');

/**
 * Names the files of a delivery by a pattern: `{name}` is the picture's own name, `{number}` its place in the job with
 * as many digits as the last, `{job}` the job's name. Two that would be called the same are told apart by a number.
 *
 * @param pictures names of the pictures, in order
 * @param ending of every file, without the dot
 */
export function fileNames(
  pictures: readonly string[],
  pattern: string,
  job: string,
  ending: string,
): string[] {
  const digits = String(pictures.length).length;
  const taken = new Set<string>();
  return pictures.map((picture, index) => {
    const filled = pattern
      .replaceAll('{name}', withoutEnding(picture))
      .replaceAll('{number}', String(index + 1).padStart(digits, '0'))
      .replaceAll('{job}', job);
    const stem =
      filled
        .replace(FORBIDDEN, '-')
        .replace(/^[.\s]+|[.\s]+$/g, '')
        .slice(0, 180) || 'picture';
    let name = `${stem}.${ending}`;
    // Upper and lower case are the same file to many systems.
    for (let again = 2; taken.has(name.toLowerCase()); again++) name = `${stem} ${again}.${ending}`;
    taken.add(name.toLowerCase());
    return name;
  });
}
