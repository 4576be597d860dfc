import { spawn, spawnSync } from 'node:child_process';
import { mkdtempSync, openSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { availableParallelism, tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { glenmark, root } from './glenmark.js';

const folder = mkdtempSync(join(tmpdir(), 'glenmark-process-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const BIN = 'packages/cli/bin/glenmark.js';
const SCOUT = ['--course', 'examples/mill-yard.yaml', '--scout'];

describe('the command line as a process', () => {
  it('says its version, which is the one of package.json', () => {
    const { version } = JSON.parse(readFileSync(join(root, 'package.json'), 'utf8')) as { version: string };
    expect(glenmark('--version')).toMatchObject({ status: 0, out: `${version}\n` });
  });

  it('reads a moveset from standard input for -, with or without a byte order mark', () => {
    const text = readFileSync(join(root, 'examples/courier.yaml'), 'utf8');
    for (const input of [text, `\uFEFF${text}`]) {
      const { status, stdout } = spawnSync(process.execPath, [BIN, 'check', '-'], {
        cwd: root,
        input,
        encoding: 'utf8',
      });
      expect([status, stdout]).toEqual([0, 'Courier: nothing found\n']);
    }
  });

  it('refuses a named pipe and a device with a sentence', () => {
    const pipe = join(folder, 'pipe');
    spawnSync('mkfifo', [pipe]);
    expect(glenmark('check', pipe)).toMatchObject({
      status: 2,
      err: expect.stringContaining(
        'found a named pipe, expected a file; give - to read standard input',
      ) as string,
    });
    expect(glenmark('check', '/dev/zero')).toMatchObject({
      status: 2,
      err: expect.stringContaining('found a device') as string,
    });
  });

  it('says why a folder for witnesses cannot be made', () => {
    const taken = join(folder, 'taken');
    writeFileSync(taken, '');
    const { status, err } = glenmark(
      'check',
      'examples/courier-draft.yaml',
      ...SCOUT,
      '500',
      '--witness-dir',
      join(taken, 'tapes'),
    );
    expect([status, err]).toEqual([
      2,
      `${join(taken, 'tapes')} cannot be written: a part of the path is a file\n`,
    ]);
  });

  it('says that the disk is full, and that the reader has gone', () => {
    const full = spawnSync(process.execPath, [BIN, 'check', 'examples/courier-draft.yaml'], {
      cwd: root,
      encoding: 'utf8',
      stdio: ['ignore', openSync('/dev/full', 'w'), 'pipe'],
    });
    expect([full.status, full.stderr]).toEqual([2, 'The output cannot be written: the disk is full\n']);
    const piped = spawnSync(
      'bash',
      ['-c', `${process.execPath} ${BIN} check examples/courier-draft.yaml | true; echo "\${PIPESTATUS[0]}"`],
      { cwd: root, encoding: 'utf8' },
    );
    expect(piped.stdout).toBe('2\n');
    expect(piped.stderr).toBe('The reader of the output closed it before the end.\n');
  });

  it('uses no more workers than there are cores, and says so', () => {
    const cores = availableParallelism();
    const { status, err } = glenmark('check', 'examples/courier.yaml', ...SCOUT, '300', '--workers', '64');
    expect(status).not.toBe(3);
    expect(err).toContain(`--workers is 64; this machine has ${cores} cores, so ${cores} are used.`);
  });

  it('prints what it has found when it is interrupted', async () => {
    const args = ['check', 'examples/courier-draft.yaml', ...SCOUT, '900000000', '--workers', '64'];
    const child = spawn(process.execPath, [BIN, ...args], { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] });
    let out = '';
    let err = '';
    let isSent = false;
    child.stdout.on('data', (chunk: Buffer) => (out += chunk.toString()));
    child.stderr.on('data', (chunk: Buffer) => {
      err += chunk.toString();
      // The note about its workers is the first that it says, and by then it listens.
      if (!isSent && err.includes('are used.')) isSent = child.kill('SIGINT');
    });
    const code = await new Promise((done) => child.once('close', done));
    expect(code).toBe(1);
    expect(out).toMatch(/Courier draft: \d+ findings/);
    expect(out).toMatch(/Scouted [\d,]+ situations/);
    expect(err).toContain('Interrupted: this is what was found so far.');
  });

  it('says what was too large to decide, within a budget of work', () => {
    const guard = (i: number): string =>
      Array.from(
        { length: 40 },
        (_, k) => `(vx + ${(k + i) % 9}.${k} * vy > ${k + i} m/s or vx - ${k}.${i % 7} * vy < ${k} m/s)`,
      ).join(' and ');
    const crossings = Array.from(
      { length: 190 },
      (_, i) => `      - { from: s${i % 20}, to: s${(i * 7 + 1) % 20}, when: '${guard(i)}' }`,
    );
    const states = Array.from({ length: 20 }, (_, i) => `s${i}: {}`).join(', ');
    const long = join(folder, 'long.yaml');
    writeFileSync(
      long,
      `glenmark: 1\nkind: moveset\nname: Long\nbody: { stances: { upright: { shape: box, width: 1 m, height: 2 m } } }\nlanes:\n  - name: legs\n    initial: s0\n    states: { ${states} }\n    crossings:\n${crossings.join('\n')}\n`,
    );
    expect(glenmark('check', long).out).toMatch(
      /Not decided\n {2}In the lane legs, questions about the guards out of .* were too large/,
    );
    const { undecided } = JSON.parse(glenmark('check', long, '--format', 'json').out) as {
      undecided: { lane: string; why: string; states: string[] }[];
    };
    expect(undecided[0]).toMatchObject({ lane: 'legs', why: 'guards' });
    expect(undecided[0]!.states).toContain('s1');
    expect(glenmark('check', long, '--format', 'sarif').out).toContain('were too large and were not decided');
    expect(glenmark('check', long, '--format', 'junit').out).toContain('<testsuite name="Not decided"');
  });
});
