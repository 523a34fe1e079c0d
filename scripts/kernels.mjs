// npm run kernels: compiles kernels/ into src/core/raster/rows-wasm.ts, which is committed.
import { readFileSync, writeFileSync } from 'node:fs';
import asc from 'assemblyscript/asc';

/** Bytes of the compiled kernels. */
export async function compileKernels() {
  const { error, stderr, binary } = await compile();
  if (error) throw new Error(`${error.message}\n${stderr}`);
  return binary;
}

async function compile() {
  let binary;
  const { error, stderr } = await asc.main(
    [
      'index.ts',
      '--outFile',
      'kernels.wasm',
      '--runtime',
      'stub',
      '--optimizeLevel',
      '3',
      '--shrinkLevel',
      '0',
      '--enable',
      'simd',
      '--noAssert',
      '--importMemory',
      '--initialMemory',
      '1',
    ],
    {
      readFile: (name) => {
        try {
          return readFileSync(new URL(`../kernels/${name}`, import.meta.url), 'utf8');
        } catch {
          return null;
        }
      },
      writeFile: (_, contents) => (binary = contents),
      listFiles: () => [],
    },
  );
  return { error, stderr: stderr.toString(), binary };
}

if (process.argv[1] === new URL(import.meta.url).pathname) {
  const text = Buffer.from(await compileKernels()).toString('base64');
  const lines = text.match(/.{1,90}/g).map((line) => `  '${line}',`);
  writeFileSync(
    new URL('../src/core/raster/rows-wasm.ts', import.meta.url),
    `// Made by npm run kernels from kernels/; not written by hand.\nexport const ROWS_WASM = [\n${lines.join('\n')}\n].join('');\n`,
  );
}
