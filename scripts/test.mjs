// `npm test`: everything, from a fresh clone of a fresh machine. Each step ends the run when it fails.
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { buildIfNeeded, installIfNeeded, root, run } from './build.mjs';

const { executablePath: CHROMIUM } = JSON.parse(readFileSync(join(root, 'e2e/browser.json'), 'utf8'));

/** Where Debian keeps the programs of its PostgreSQL servers. */
const POSTGRESQL = '/usr/lib/postgresql';

/** Whether packages of Debian can be installed here. */
const mayInstall = () =>
  process.getuid?.() === 0 && spawnSync('apt-get', ['--version'], { stdio: 'ignore' }).status === 0;

/** The browser for the end-to-end tests: Debian's, fetched when it is missing and we may. */
function ensureChromium() {
  if (existsSync(CHROMIUM)) return;
  if (!mayInstall()) {
    process.stderr.write(
      `The end-to-end tests need Chromium at ${CHROMIUM}: install Debian's package 'chromium' (as root: apt-get install chromium).\n`,
    );
    process.exit(1);
  }
  process.stdout.write('Installing Chromium (once) …\n');
  const env = { DEBIAN_FRONTEND: 'noninteractive' };
  run('apt-get', ['update', '-qq'], env);
  run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', 'chromium'], env);
}

/**
 * What some tests need of Debian and run without: compilers for the code that movesets are printed as, and PostgreSQL. What
 * stays missing is told by those tests, and not tested.
 */
function ensureOptional() {
  const compilers = JSON.parse(readFileSync(join(root, 'packages/core/test/code/compilers.json'), 'utf8'));
  const isHere = (program) => spawnSync(program, ['--help'], { stdio: 'ignore' }).error === undefined;
  const packages = Object.values(compilers)
    .filter(({ programs }) => !programs.every(isHere))
    .flatMap((language) => language.packages);
  if (!existsSync(POSTGRESQL)) packages.push('postgresql');
  if (packages.length === 0 || !mayInstall()) return;
  process.stdout.write(`Installing ${packages.join(', ')} for the tests (once) …\n`);
  const quiet = { stdio: 'inherit', env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } };
  spawnSync('apt-get', ['update', '-qq'], quiet);
  spawnSync('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...packages], quiet);
}

const step = (name) => process.stdout.write(`\n── ${name}\n`);

/** Commands beside each other, each with what it prints when it ends; the first that fails ends the run. */
async function together(commands) {
  await Promise.all(
    commands.map(
      ([command, args, env = {}]) =>
        new Promise((done) => {
          const child = spawn(command, args, { cwd: root, env: { ...process.env, ...env } });
          let said = '';
          for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk) => (said += chunk));
          child.on('close', (code) => {
            process.stdout.write(said);
            if (code !== 0) process.exit(code ?? 1);
            done();
          });
        }),
    ),
  );
}

installIfNeeded();
ensureChromium();
ensureOptional();
step('build');
buildIfNeeded('node');
buildIfNeeded('web');
step('lint, types, and texts: all that is marked for translation is in its file');
await together([
  ['npm', ['run', '--silent', 'lint']],
  ['npm', ['run', '--silent', 'types']],
  ['node', ['scripts/texts.mjs', '--check'], { NG_CLI_ANALYTICS: 'false' }],
]);
step('unit tests: core, contract, server, command line');
run('npm', ['run', '--silent', 'unit']);
step('unit tests: web application');
run('npm', ['run', '--silent', 'unit:web'], { NG_CLI_ANALYTICS: 'false' });
step('end to end');
run('npm', ['run', '--silent', 'e2e']);
