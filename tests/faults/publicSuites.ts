import { execFileSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

const FOLDER = fileURLToPath(new URL('../../.fennip/suites', import.meta.url));

/**
 * Debian packages that carry the files of public test suites. PngSuite: Willem van Schaik, free to use, copied and distributed
 * with Go's image/png. The drawings of golang.org/x/image (BSD licence, Copyright The Go Authors) are one picture in many
 * compressions.
 */
const PACKAGES = {
  png: { name: 'golang-1.19-src', path: 'usr/share/go-1.19/src/image/png/testdata' },
  drawings: {
    name: 'golang-golang-x-image-dev',
    path: 'usr/share/gocode/src/golang.org/x/image/testdata',
  },
} as const;

/** The folder of a suite, fetched once and unpacked; nothing is installed. */
export function publicSuite(which: keyof typeof PACKAGES): string {
  const { name, path } = PACKAGES[which];
  const folder = `${FOLDER}/${which}`;
  if (!existsSync(`${folder}/${path}`)) {
    mkdirSync(folder, { recursive: true });
    execFileSync('apt-get', ['download', '-q', name], { cwd: folder, stdio: 'ignore' });
    const [file] = readdirSync(folder).filter((one) => one.startsWith(name) && one.endsWith('.deb'));
    execFileSync('dpkg', ['-x', file, folder], { cwd: folder });
  }
  return `${folder}/${path}`;
}
