import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, renameSync, writeFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { build, buildSync } from 'esbuild';

// JavaScript, not TypeScript: what starts every program must itself start without a loader.

const PACKAGES = fileURLToPath(new URL('../..', import.meta.url));
/** Below the folder of all libraries, so that what is not bundled is found from there. */
const CACHE = join(PACKAGES, '..', 'node_modules', '.cache', 'fennip');

/** The files that our own packages are entered by; everything else that is imported by name stays outside. */
function ownExports() {
  /** @type {Record<string, string>} */
  const found = {};
  for (const folder of readdirSync(PACKAGES)) {
    const manifest = join(PACKAGES, folder, 'package.json');
    if (!existsSync(manifest)) continue;
    const { name, exports = {} } = JSON.parse(readFileSync(manifest, 'utf8'));
    for (const [subpath, file] of Object.entries(exports))
      found[name + subpath.slice(1)] = join(PACKAGES, folder, file);
  }
  return found;
}

/** A bundle lies in another folder than its sources: a module that asks where it lies is told the place of its source. */
const keepsPlaces = {
  name: 'keeps the places of the sources',
  setup({ onLoad }) {
    onLoad({ filter: /\.m?[jt]s$/ }, ({ path }) => {
      const source = readFileSync(path, 'utf8');
      if (!source.includes('import.meta.url')) return undefined;
      const place = JSON.stringify(pathToFileURL(path).href);
      return {
        contents: source.replaceAll('import.meta.url', place),
        loader: path.endsWith('.ts') ? 'ts' : 'js',
      };
    });
  },
};

const optionsFor = (source) => ({
  entryPoints: [source],
  bundle: true,
  write: false,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  packages: 'external',
  alias: ownExports(),
  // Where a line stood in its source, for those who read what went wrong; relative to where the bundle will lie.
  sourcemap: 'inline',
  outfile: join(CACHE, 'bundle.mjs'),
  logLevel: 'silent',
});

function keep(source, { outputFiles: [{ contents }] }) {
  const name = createHash('sha256').update(contents).digest('hex').slice(0, 16);
  const path = join(CACHE, `${basename(source, '.ts')}-${name}.mjs`);
  if (!existsSync(path)) {
    mkdirSync(CACHE, { recursive: true });
    // Another process may be at the same: a file is there as a whole or not at all.
    const passing = `${path}.${process.pid}`;
    writeFileSync(passing, contents);
    renameSync(passing, path);
  }
  return path;
}

const bundled = new Map();

export function bundleModule(module) {
  const known = bundled.get(module.href);
  if (known) return known;
  const source = fileURLToPath(module);
  const path = keep(source, buildSync(optionsFor(source)));
  bundled.set(module.href, path);
  return path;
}

export async function bundleProgram(module) {
  const source = fileURLToPath(module);
  return keep(source, await build({ ...optionsFor(source), plugins: [keepsPlaces] }));
}
