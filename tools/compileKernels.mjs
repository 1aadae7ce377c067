// Compiles the inner loops. Run by `npm run kernels`, which writes the results, and by a test, which compares them.
import { readFile, readdir, writeFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import asc from 'assemblyscript/asc';
import { format, resolveConfig } from 'prettier';

const SOURCES = new URL('../packages/core/wasm/', import.meta.url);
const KERNELS = new URL('../packages/core/src/kernels/', import.meta.url);
/** What loops and callers share; it is compiled into both. */
const LAYOUT = '../src/kernels/layout.ts';
/** A function with more parameters has them as one list of named places. */
const MOST_PARAMETERS = 6;

async function sources() {
  const names = (await readdir(SOURCES)).filter((name) => name.endsWith('.ts'));
  return new Map(
    await Promise.all(
      [...names, LAYOUT].map(async (name) => [name, await readFile(new URL(name, SOURCES), 'utf8')]),
    ),
  );
}

/** The module as text: base64, in lines. */
export async function compiledKernels() {
  const texts = await sources();
  let binary = null;
  const { error, stderr } = await asc.main(
    ['kernels.ts', '-o', 'kernels.wasm', '--runtime', 'stub', '--enable', 'simd', '-O3', '--noAssert'],
    {
      readFile: (name) => texts.get(name) ?? null,
      writeFile: (name, contents) => {
        if (name === 'kernels.wasm') binary = contents;
      },
      listFiles: () => [],
    },
  );
  if (error) throw new Error(`${error.message}\n${stderr.toString()}`);
  const lines =
    Buffer.from(binary)
      .toString('base64')
      .match(/.{1,104}/g) ?? [];
  return [
    '/** The compiled inner loops; written by `npm run kernels` from packages/core/wasm. */',
    `export const KERNEL_CODE = [\n${lines.map((line) => `  '${line}',\n`).join('')}].join('');\n`,
  ].join('\n');
}

const typeOf = (type) => (type === 'void' ? 'void' : 'number');

/** The exported functions of a source, as members of an interface. */
function declarations(name, text) {
  const functions = text.matchAll(/^export function (\w+)\(([^)]*)\): (\w+) \{/gm);
  return [...functions].map(([, function_, list, returned]) => {
    const parameters = list
      .split(',')
      .map((parameter) => parameter.trim().split(':'))
      .filter(([parameter]) => parameter !== '')
      .map(([parameter, type]) => `${parameter}: ${typeOf(type.trim())}`);
    const taken =
      parameters.length > MOST_PARAMETERS
        ? `...places: readonly [${parameters.join(', ')}]`
        : parameters.join(', ');
    return `/** See packages/core/wasm/${name}. */\n${function_}(${taken}): ${typeOf(returned)};`;
  });
}

/** What the module offers, as TypeScript. */
export async function kernelLoops() {
  const texts = await sources();
  const offered = [...texts.get('kernels.ts').matchAll(/export \* from '\.\/(\w+)'/g)].map(
    ([, name]) => `${name}.ts`,
  );
  const members = offered.flatMap((name) => declarations(name, texts.get(name)));
  const text = `
/** The inner loops that the compiled module offers; written by \`npm run kernels\` from packages/core/wasm. Places are in bytes. */
export interface KernelLoops {
readonly memory: { readonly buffer: ArrayBuffer };
${members.join('\n')}
}
`;
  const path = fileURLToPath(new URL('kernelLoops.ts', KERNELS));
  return format(text.trimStart(), { ...(await resolveConfig(path)), filepath: path });
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  await writeFile(new URL('kernelCode.ts', KERNELS), await compiledKernels());
  await writeFile(new URL('kernelLoops.ts', KERNELS), await kernelLoops());
}
