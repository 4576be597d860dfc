import { spawnSync } from 'node:child_process';

/** The project's folder. */
export const root = new URL('../../../', import.meta.url).pathname;

/** Runs the command line as a person does, from the project's folder. */
export function glenmark(...args: string[]): { status: number | null; out: string; err: string } {
  const { status, stdout, stderr } = spawnSync(process.execPath, ['packages/cli/bin/glenmark.js', ...args], {
    cwd: root,
    encoding: 'utf8',
    maxBuffer: 1e8,
  });
  return { status, out: stdout, err: stderr };
}
