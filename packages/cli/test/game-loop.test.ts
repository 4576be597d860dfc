import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { glenmark, root } from './glenmark.js';

const COURIER = join(root, 'examples/courier.yaml');
const QUAY = join(root, 'examples/game-loop/quay.yaml');
const hasCompiler = spawnSync('g++', ['--version'], { stdio: 'ignore' }).error === undefined;

let folder: string;
const at = (file: string): string => join(folder, file);

/** Compiles the stand-in game as its first lines say, plays it, and gives the file with its log. */
function played(name: string, ...switches: string[]): string {
  const log = at(`${name}.csv`);
  const loop = join(root, 'examples/game-loop/loop.cpp');
  const options = ['-std=c++17', '-O2', '-ffp-contract=off', '-Wall', '-Wextra', '-Werror'];
  execFileSync('g++', [...options, ...switches, '-I', folder, loop, '-o', at(name)]);
  execFileSync('sh', ['-c', `"$0" > "$1"`, at(name), log]);
  return log;
}

beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'glenmark-game-'));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

describe.skipIf(!hasCompiler)('the stand-in game', () => {
  it('is made of the courier, and its log agrees with the model', () => {
    const made = glenmark('code', COURIER, '--to', 'cpp', '--out', folder);
    expect(made).toMatchObject({ status: 0, err: '' });
    expect(made.out).toBe(`${at('courier.hpp')}\n${at('courier.hpp.md')}\n`);
    const log = played('loop');
    const { status, out, err } = glenmark(
      'compare',
      COURIER,
      '--course',
      QUAY,
      '--log',
      log,
      '--tape',
      at('tape.yaml'),
    );
    expect({ status, err }).toEqual({ status: 0, err: '' });
    expect(out).toMatch(/No divergence in 440 ticks\.\n$/);
    // Every state of the courier is come to, so that each was held against the model.
    const poses = new Set(
      readFileSync(log, 'utf8')
        .split('\n')
        .slice(1, -1)
        .map((line) => line.split(',').slice(10).join()),
    );
    expect([...poses].sort()).toEqual([
      'boost,closed',
      'jump,closed',
      'jump,open',
      'run,closed',
      'slide,closed',
    ]);
  });

  it('lends its log as a tape, which comes to the same', () => {
    const { status, out } = glenmark(
      'run',
      COURIER,
      '--course',
      QUAY,
      '--tape',
      at('tape.yaml'),
      '--format',
      'json',
    );
    expect(status).toBe(0);
    const last = readFileSync(at('loop.csv'), 'utf8').trim().split('\n').at(-1)!.split(',');
    const { measures } = JSON.parse(out) as { measures: { distance: number } };
    // It begins at 1 m; the log is in centimetres.
    expect(1 + measures.distance).toBeCloseTo(Number(last[5]) / 100, 6);
  });

  it('parts from the model where it lands heavily, and is told why', () => {
    const log = played('heavy', '-DHEAVY_LANDING');
    const { status, out } = glenmark('compare', COURIER, '--course', QUAY, '--log', log, '--format', 'json');
    expect(status).toBe(1);
    const told = JSON.parse(out) as { first: { tick: number; columns: string[] }; reasons: string[] };
    // The first landing is where the log first has the body on the ground again after the hop.
    const rows = readFileSync(log, 'utf8')
      .split('\n')
      .slice(1, -1)
      .map((line) => line.split(','));
    const hop = rows.findIndex((row) => Number(row[6]) > 0);
    const landing = rows.findIndex((row, i) => i > hop && Number(row[6]) === 0);
    expect(told.first).toEqual({ tick: landing, columns: ['vx'] });
    expect(told.reasons).toEqual([
      'In the model Fall drive makes vx 6.2 m/s.',
      'What it touches there leaves that as it is.',
    ]);
  });
});

describe('code', () => {
  it('goes to standard output, or says what cannot be read or written', () => {
    const { status, out } = glenmark('code', COURIER, '--to', 'lua');
    expect(status).toBe(0);
    expect(out).toMatch(/^-- Courier: what it decides in a tick, 60 times a second\.\n/);
    expect(out).toMatch(/\nreturn M\n$/);
    expect(glenmark('code', COURIER, '--to', 'cobol')).toMatchObject({ status: 2 });
    expect(glenmark('code', QUAY, '--to', 'lua')).toMatchObject({ status: 2, out: '' });
    expect(glenmark('code', COURIER, '--to', 'lua', '--out', COURIER)).toMatchObject({
      status: 2,
      err: `${COURIER} cannot be written: there is a file of that name\n`,
    });
  });
});

describe('compare', () => {
  it('says where the log is wrong, and which spawn there is', () => {
    const wrong = glenmark('compare', COURIER, '--course', QUAY, '--log', QUAY);
    expect(wrong.status).toBe(2);
    expect(wrong.err).toMatch(/^.*quay\.yaml:\d+:\d+: /);
    const elsewhere = glenmark('compare', COURIER, '--course', QUAY, '--log', COURIER, '--spawn', 'strat');
    expect(elsewhere.status).toBe(2);
  });
});

describe('export and import', () => {
  it('take a moveset out as a chart, and read it again', () => {
    const chart = glenmark('export', COURIER, '--to', 'scxml');
    expect(chart).toMatchObject({ status: 0, err: '' });
    writeFileSync(at('courier.scxml'), chart.out);
    const read = glenmark('import', at('courier.scxml'));
    expect(read).toMatchObject({ status: 0, err: '' });
    writeFileSync(at('again.yaml'), read.out);
    expect(glenmark('diff', COURIER, at('again.yaml')).out).toContain('what changed\n  nothing');
  });

  it('tell what of a chart did not come over, and refuse what is none', () => {
    writeFileSync(
      at('gate.scxml'),
      '<scxml version="1.0">\n<state id="a"><invoke src="x"/></state>\n</scxml>',
    );
    const { status, out, err } = glenmark('import', at('gate.scxml'));
    expect(status).toBe(0);
    expect(out).toMatch(/^glenmark: 1\nkind: moveset\n/);
    expect(err).toContain(`${at('gate.scxml')}:2: 'invoke' has no counterpart here\n`);
    expect(glenmark('import', COURIER)).toMatchObject({ status: 2, out: '' });
  });

  it('print the grid and the graph', () => {
    expect(glenmark('export', COURIER, '--to', 'csv').out).toMatch(/^lane,from,Trot,Aloft,/);
    expect(glenmark('export', COURIER, '--to', 'dot').out).toMatch(/^digraph "Courier" \{\n/);
  });
});
