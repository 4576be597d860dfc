import { type ChildProcess, spawn } from 'node:child_process';
import { cpSync, mkdtempSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { root } from './glenmark.js';

let folder: string;
let child: ChildProcess | undefined;
let said = '';
const at = (file: string): string => join(folder, file);
const example = (file: string): string => join(root, 'examples', file);
const courier = readFileSync(example('courier.yaml'), 'utf8');

/** Watches the folder; what it says is gathered. */
function start(...args: string[]): void {
  said = '';
  child = spawn(process.execPath, ['packages/cli/bin/glenmark.js', 'watch', ...args], { cwd: root });
  child.stdout?.on('data', (chunk: Buffer) => (said += chunk.toString()));
  child.stderr?.on('data', (chunk: Buffer) => (said += chunk.toString()));
}

/** Waits until it has said something, and forgets what it said up to there. */
async function hear(what: RegExp): Promise<string> {
  await vi.waitFor(() => expect(said).toMatch(what), { timeout: 120_000, interval: 50 });
  const heard = said;
  said = '';
  return heard;
}

/** Saves as editors do that write a new file and put it in the place of the old one. */
function replace(file: string, text: string): void {
  writeFileSync(at(`${file}.new`), text);
  renameSync(at(`${file}.new`), at(file));
}

async function ended(): Promise<number | null> {
  const code = new Promise<number | null>((done) => child?.once('exit', done));
  child?.kill('SIGINT');
  return code;
}

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'glenmark-watch-'));
  for (const file of ['courier.yaml', 'mill-yard.yaml', 'yard-crossing.yaml'])
    cpSync(example(file), at(file));
});
afterEach(() => {
  child?.kill('SIGKILL');
  rmSync(folder, { recursive: true, force: true });
});

const HEAVY = courier.replace(/^gravity: .*$/m, 'gravity: 400 m/s2');

describe('watch', () => {
  it('checks and plays after every save, and tells what came, what went and what cannot be read', async () => {
    start(folder);
    const first = await hear(/Watching\. Ctrl C ends it\.\n/);
    expect(first).toMatch(/^\d\d:\d\d:\d\d {2}1 moveset and 1 tape: 0 findings, 0 expectations missed\n/);

    replace('courier.yaml', HEAVY);
    const worse = await hear(/1 moveset and 1 tape: .*\n/);
    expect(worse).toContain('  new   missed by “Yard crossing”: peak height >= 2 m (tick ');

    writeFileSync(at('courier.yaml'), courier.replace('gravity:', 'gravty:'));
    expect(await hear(/cannot be read\n.*\n/)).toMatch(/courier\.yaml:\d+:\d+: .*gravty/);

    // What was wrong before it could not be read is gone now.
    replace('courier.yaml', courier);
    expect(await hear(/1 moveset and 1 tape: .*\n/)).toContain('  gone  missed by “Yard crossing”: peak');

    // A file that comes is looked at; one that is none of ours changes nothing.
    cpSync(example('courier-draft.yaml'), at('courier-draft.yaml'));
    expect(await hear(/2 movesets and 1 tape: .*\n/)).toContain(
      '  new   IN1 proved: Perch can never be entered',
    );
    rmSync(at('courier-draft.yaml'));
    expect(await hear(/1 moveset and 1 tape: .*\n/)).toContain('  gone  IN1 proved: Perch');

    expect(await ended()).toBe(0);
    expect(said).toMatch(
      /^\d+ checks made; at the end 1 moveset and 1 tape: 0 findings, 0 expectations missed\.\n$/,
    );
  });

  it('ends with 1 when something is wrong at the end, and with 2 when it cannot be read', async () => {
    start(at('*.yaml'));
    await hear(/Watching/);
    replace('courier.yaml', HEAVY);
    await hear(/expectations missed\n/);
    expect(await ended()).toBe(1);

    start(at('courier.yaml'), at('mill-yard.yaml'), at('yard-crossing.yaml'));
    await hear(/Watching/);
    replace('mill-yard.yaml', 'nonsense');
    await hear(/cannot be read/);
    expect(await ended()).toBe(2);
  });
});
