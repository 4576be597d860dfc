// `npm run worker`: takes part in the scoutings of a team's servers, by DATABASE_URL. What is missing is installed and built.
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { buildIfNeeded, installIfNeeded, root } from './build.mjs';

installIfNeeded();
buildIfNeeded('node');
const args = [join(root, 'packages/cli/bin/glenmark.js'), 'worker', ...process.argv.slice(2)];
const child = spawn(process.execPath, args, { stdio: 'inherit' });
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => child.kill(signal));
child.on('exit', (code) => process.exit(code ?? 1));
