import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, renameSync, writeFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { buildSync } from 'esbuild';

const PACKAGES = fileURLToPath(new URL('../..', import.meta.url));
/** Below the folder of all libraries, so that what is not bundled is found from there. */
const CACHE = join(PACKAGES, '..', 'node_modules', '.cache', 'fennip-threads');

/** The files that our own packages are entered by; everything else that is imported by name stays outside. */
function doors(): Record<string, string> {
  const found: Record<string, string> = {};
  for (const folder of readdirSync(PACKAGES)) {
    const about = join(PACKAGES, folder, 'package.json');
    if (!existsSync(about)) continue;
    const { name, exports = {} } = JSON.parse(readFileSync(about, 'utf8')) as {
      name: string;
      exports?: Record<string, string>;
    };
    for (const [door, file] of Object.entries(exports))
      found[name + door.slice(1)] = join(PACKAGES, folder, file);
  }
  return found;
}

const bundled = new Map<string, string>();

/** Brings a TypeScript module and what it needs of our packages into one file. @returns its path */
export function bundleModule(module: URL): string {
  const known = bundled.get(module.href);
  if (known) return known;
  const source = fileURLToPath(module);
  const [{ contents }] = buildSync({
    entryPoints: [source],
    bundle: true,
    write: false,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    packages: 'external',
    alias: doors(),
    // Where a line stood in its source, for those who read what went wrong; told from where the file will lie.
    sourcemap: 'inline',
    outfile: join(CACHE, 'bundle.mjs'),
    logLevel: 'silent',
  }).outputFiles;
  const name = createHash('sha256').update(contents).digest('hex').slice(0, 16);
  const path = join(CACHE, `${basename(source, '.ts')}-${name}.mjs`);
  if (!existsSync(path)) {
    mkdirSync(CACHE, { recursive: true });
    // Another process may be at the same: a file is there as a whole or not at all.
    const passing = `${path}.${process.pid}`;
    writeFileSync(passing, contents);
    renameSync(passing, path);
  }
  bundled.set(module.href, path);
  return path;
}
