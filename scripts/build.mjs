// Builds what is out of date. A stamp of the sources' contents tells; timestamps lie after a clone.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = resolve(dirname(fileURLToPath(import.meta.url)), '..');

/** Runs a command in the project's root and ends the process with its code when it fails. */
export function run(command, args, env = {}) {
  const result = spawnSync(command, args, { cwd: root, stdio: 'inherit', env: { ...process.env, ...env } });
  if (result.status !== 0) {
    process.stderr.write(`${[command, ...args].join(' ')} failed\n`);
    process.exit(result.status ?? 1);
  }
}

/** Installs the locked packages when they are not there, or not those of the lock file. */
export const installIfNeeded = () => alone(install);

function install() {
  const lock = readFileSync(join(root, 'package-lock.json'));
  const stamp = createHash('sha256').update(lock).digest('hex');
  const stampFile = join(root, 'node_modules/.glenmark-lock');
  if (existsSync(stampFile) && readFileSync(stampFile, 'utf8') === stamp) return;
  process.stdout.write('Installing packages (once) …\n');
  run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel', 'error'], { NODE_ENV: 'development' });
  writeFileSync(stampFile, stamp);
}

const SOURCES = {
  node: [
    'tsconfig.base.json',
    'tsconfig.json',
    ...['core', 'contract', 'threads', 'server', 'cli'].flatMap((p) => [
      `packages/${p}/src`,
      `packages/${p}/tsconfig.json`,
    ]),
  ],
  web: [
    'packages/web/src',
    'packages/web/public',
    'packages/web/angular.json',
    'packages/web/tsconfig.json',
    'packages/web/tsconfig.app.json',
    'packages/web/tsconfig.worker.json',
    'packages/core/src',
    'packages/contract/src',
  ],
};
const OUTPUT = { node: 'packages/server/dist/main.js', web: 'packages/web/dist/browser/index.html' };

/** Builds one half of the project (`node` or `web`) when its sources are not those it was last built from. */
export const buildIfNeeded = (half) => alone(() => build(half));

/** Does something while no other process does it in this checkout: servers and workers may be started together. */
function alone(work) {
  const lock = join(
    tmpdir(),
    `glenmark-build-${createHash('sha256').update(root).digest('hex').slice(0, 16)}`,
  );
  while (!locked(lock)) Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, 200);
  try {
    work();
  } finally {
    rmSync(lock, { force: true });
  }
}

/** Takes a lock, also that of a process that is gone; false while another one has it. */
function locked(lock) {
  try {
    writeFileSync(lock, String(process.pid), { flag: 'wx' });
    return true;
  } catch {
    const owner = existsSync(lock) ? Number(readFileSync(lock, 'utf8')) : 0;
    // Empty for the moment between making it and writing to it.
    if (owner > 0 && !existsProcess(owner)) rmSync(lock, { force: true });
    return false;
  }
}

function existsProcess(pid) {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return error.code === 'EPERM';
  }
}

function build(half) {
  const stamp = contentStamp(['package-lock.json', ...SOURCES[half]]);
  const stampFile = join(root, 'node_modules/.cache/glenmark', `${half}.stamp`);
  const fresh =
    existsSync(join(root, OUTPUT[half])) &&
    existsSync(stampFile) &&
    readFileSync(stampFile, 'utf8') === stamp;
  if (fresh) return;
  process.stdout.write(`Building the ${half === 'web' ? 'web application' : 'server and command line'} …\n`);
  run('npm', ['run', '--silent', `build:${half}`], { NG_CLI_ANALYTICS: 'false' });
  mkdirSync(dirname(stampFile), { recursive: true });
  writeFileSync(stampFile, stamp);
}

function contentStamp(paths) {
  const hash = createHash('sha256');
  const add = (path) => {
    const full = join(root, path);
    if (!existsSync(full)) return;
    if (statSync(full).isDirectory()) for (const name of readdirSync(full).sort()) add(join(path, name));
    else hash.update(path).update(readFileSync(full));
  };
  for (const path of paths) add(path);
  return hash.digest('hex');
}
