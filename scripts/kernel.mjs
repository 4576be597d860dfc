// Compiles the world kernel (packages/core/kernel) and writes it into the core; with --check only compares.
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import asc from 'assemblyscript/asc';
import prettier from 'prettier';
import { root } from './build.mjs';

const source = join(root, 'packages/core/kernel/index.ts');
const file = join(root, 'packages/core/src/world/kernel/module.ts');

/** No memory is managed: all of it is laid out by the core, which also makes it. */
const OPTIONS = ['-O3', '--noAssert', '--runtime', 'stub', '--importMemory', '--noExportMemory'];

/** The bytes of the compiled kernel. */
async function compiled() {
  const files = new Map();
  const writeFile = (name, contents) => void files.set(name, contents);
  const { error, stderr } = await asc.main([source, '--outFile', 'kernel.wasm', ...OPTIONS], { writeFile });
  if (error !== null) throw new Error(`the kernel does not compile:\n${stderr}`, { cause: error });
  return files.get('kernel.wasm');
}

/** The text of the file that holds the kernel. */
async function textFor(bytes) {
  const parts = Buffer.from(bytes)
    .toString('base64')
    .match(/.{1,100}/g);
  const text = `/** The compiled kernel in base 64. \`npm run kernel\` writes it, and a test compiles it again. */
export const MODULE = ${parts.map((part) => `'${part}'`).join(' + ')};`;
  return prettier.format(text, { ...(await prettier.resolveConfig(file)), filepath: file });
}

const text = await textFor(await compiled());
if (process.argv.includes('--check')) {
  if (readFileSync(file, 'utf8') !== text) {
    process.stderr.write('The compiled kernel is not that of its source: run `npm run kernel`.\n');
    process.exitCode = 1;
  }
} else writeFileSync(file, text);
