#!/usr/bin/env node
// Runs the command line; on a fresh clone it is built first, so that `npx glenmark` needs no step before it.
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { dirname, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '../../..');
const main = resolve(root, 'packages/cli/dist/main.js');
if (!existsSync(main)) {
  const built = spawnSync('npm', ['run', '--silent', 'build:node'], {
    cwd: root,
    stdio: ['ignore', 'inherit', 'inherit'],
  });
  if (built.status !== 0) process.exit(2);
}
await import(main);
