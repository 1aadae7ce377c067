import { createHash } from 'node:crypto';
import {
  existsSync,
  mkdirSync,
  readFileSync,
  readdirSync,
  renameSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { basename, dirname, join, resolve } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { build, buildSync } from 'esbuild';

// JavaScript, not TypeScript: what starts every program must itself start without a loader.

const PACKAGES = fileURLToPath(new URL('../..', import.meta.url));
/** This file: what was bundled in another way is another bundle. */
const OWN = fileURLToPath(import.meta.url);
/** Below the folder of all libraries, so that what is not bundled is found from there. */
const CACHE = join(PACKAGES, '..', 'node_modules', '.cache', 'fennip');

/** What our own packages say of themselves. */
const manifests = () =>
  readdirSync(PACKAGES)
    .map((folder) => join(PACKAGES, folder, 'package.json'))
    .filter((manifest) => existsSync(manifest));

/** The files that our own packages are entered by; everything else that is imported by name stays outside. */
function ownExports() {
  /** @type {Record<string, string>} */
  const found = {};
  for (const manifest of manifests()) {
    const { name, exports = {} } = JSON.parse(readFileSync(manifest, 'utf8'));
    for (const [subpath, file] of Object.entries(exports))
      found[name + subpath.slice(1)] = join(dirname(manifest), file);
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
  metafile: true,
  absWorkingDir: PACKAGES,
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

/** Where it is written down what a bundle was made from. */
const recordOf = (source, way) => {
  const name = createHash('sha256').update(`${way} ${source}`).digest('hex').slice(0, 16);
  return join(CACHE, `${basename(source, '.ts')}-${name}.json`);
};

/** When a file was last changed, and its size: another one is not the one that was bundled. */
function stateOf(path) {
  const { mtimeMs, size } = statSync(path);
  return `${mtimeMs} ${size}`;
}

/** Another process may be at the same: a file is there as a whole or not at all. */
function writeWhole(path, contents) {
  mkdirSync(CACHE, { recursive: true });
  const passing = `${path}.${process.pid}`;
  writeFileSync(passing, contents);
  renameSync(passing, path);
}

/** The bundle that was made before, if nothing that it was made from has changed since. */
function madeBefore(source, way) {
  try {
    const { bundle, madeFrom } = JSON.parse(readFileSync(recordOf(source, way), 'utf8'));
    const isCurrent = Object.entries(madeFrom).every(([path, state]) => stateOf(path) === state);
    return isCurrent && existsSync(bundle) ? bundle : null;
  } catch {
    // Never made, or something that it was made from is gone.
    return null;
  }
}

/** @param begun when the bundling did, in milliseconds */
function keep(source, way, begun, { outputFiles: [{ contents }], metafile }) {
  const name = createHash('sha256').update(contents).digest('hex').slice(0, 16);
  const bundle = join(CACHE, `${basename(source, '.ts')}-${name}.mjs`);
  if (!existsSync(bundle)) writeWhole(bundle, contents);
  const inputs = [OWN, ...Object.keys(metafile.inputs).map((path) => resolve(PACKAGES, path))];
  const madeFrom = Object.fromEntries([...manifests(), ...inputs].map((path) => [path, stateOf(path)]));
  // What changed while it was bundled may be in it or not: then the next start bundles anew.
  if (inputs.every((path) => statSync(path).mtimeMs < begun))
    writeWhole(recordOf(source, way), JSON.stringify({ bundle, madeFrom }));
  return bundle;
}

const bundled = new Map();

export function bundleModule(module) {
  const known = bundled.get(module.href);
  if (known) return known;
  const source = fileURLToPath(module);
  const path =
    madeBefore(source, 'module') ?? keep(source, 'module', Date.now(), buildSync(optionsFor(source)));
  bundled.set(module.href, path);
  return path;
}

export async function bundleProgram(module) {
  const source = fileURLToPath(module);
  const before = madeBefore(source, 'program');
  if (before !== null) return before;
  const begun = Date.now();
  return keep(source, 'program', begun, await build({ ...optionsFor(source), plugins: [keepsPlaces] }));
}
