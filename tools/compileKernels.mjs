// Compiles the inner loops. Run by `npm run kernels`, which writes the result, and by a test, which compares it.
import { readFile, readdir, writeFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import asc from 'assemblyscript/asc';

const SOURCES = new URL('../packages/core/wasm/', import.meta.url);
const ONTO = new URL('../packages/core/src/kernels/kernelCode.ts', import.meta.url);

/** The module as text: base64, in lines. */
export async function compiledKernels() {
  const names = (await readdir(SOURCES)).filter((name) => name.endsWith('.ts'));
  const texts = new Map(
    await Promise.all(names.map(async (name) => [name, await readFile(new URL(name, SOURCES), 'utf8')])),
  );
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

if (process.argv[1] === fileURLToPath(import.meta.url)) await writeFile(ONTO, await compiledKernels());
