import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { glenmark, root } from './glenmark.js';

const folder = mkdtempSync(join(tmpdir(), 'glenmark-cli-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const file = (name: string, text: string): string => {
  const path = join(folder, name);
  writeFileSync(path, text);
  return path;
};
const courier = readFileSync(join(root, 'examples/courier.yaml'), 'utf8');
const YARD = ['--course', 'examples/mill-yard.yaml'];

describe('check', () => {
  it('exits 0 on a sound moveset and 1 on the draft, whose four faults it names', () => {
    expect(
      glenmark('check', 'examples/courier.yaml', ...YARD, '--tape', 'examples/culvert-slide.yaml'),
    ).toMatchObject({ status: 0, out: 'Courier: nothing found\n' });
    const draft = glenmark(
      'check',
      'examples/courier-draft.yaml',
      ...YARD,
      '--tape',
      'examples/draft-tuck.yaml',
    );
    expect(draft.status).toBe(1);
    for (const code of ['IN1', 'IN2', 'OUT1', 'AG1']) expect(draft.out).toContain(code);
  });

  it('prints its stable JSON', () => {
    const { out } = glenmark('check', 'examples/courier-draft.yaml', '--format', 'json');
    const { findings } = JSON.parse(out) as { findings: Record<string, unknown>[] };
    const glide = findings.find((f) => f['code'] === 'IN2');
    expect(glide).toMatchObject({
      code: 'IN2',
      certainty: 'proved',
      lane: 'legs',
      state: 'Glide',
      crossing: { from: 'Fall', to: 'Glide', index: 5 },
    });
    expect(findings.find((f) => f['code'] === 'OUT1')).toMatchObject({ crossing: null, state: 'Gust' });
    for (const finding of findings)
      expect(Object.keys(finding)).toEqual(
        expect.arrayContaining(['code', 'certainty', 'lane', 'state', 'crossing', 'sentence']),
      );
  });
});

describe('warnings', () => {
  it('stand on standard error and change neither output nor exit code', () => {
    const sunk = file(
      'sunk.yaml',
      'glenmark: 1\nkind: course\nname: Sunk\nsolids:\n  - { box: [[0 m, 0 m], [9 m, 1 m]] }\nspawns: { low: { at: [2 m, 0.3 m] } }\n',
    );
    const { status, out, err } = glenmark('check', 'examples/courier.yaml', '--course', sunk);
    expect([status, out]).toEqual([0, 'Courier: nothing found\n']);
    expect(err).toMatch(/sunk\.yaml:6:\d+: warning: the spawn 'low' is inside a solid/);
    expect(glenmark('check', 'examples/courier.yaml').err).toBe('');
  });

  it('what is only untidy fails when asked to', () => {
    const idle = file('idle.yaml', courier.replace('cooldowns:', 'cooldowns:\n  spare: { recharge: 1 s }'));
    expect(glenmark('check', idle).status).toBe(0);
    const { status, out } = glenmark('check', idle, '--fail-on', 'tidy');
    expect(status).toBe(1);
    expect(out).toContain('Nothing ever spends the cooldown spare.');
  });
});

describe('run', () => {
  it('plays a tape and prints its stable JSON', () => {
    const { status, out } = glenmark(
      'run',
      'examples/courier.yaml',
      ...YARD,
      '--tape',
      'examples/culvert-slide.yaml',
      '--format',
      'json',
    );
    expect(status).toBe(0);
    const run = JSON.parse(out) as {
      rate: number;
      ticks: Record<string, unknown>[];
      taken: unknown[];
      expectations: { passed: boolean }[];
      measures: object;
    };
    expect(run.rate).toBe(60);
    expect(run.ticks).toHaveLength(180);
    expect(run.ticks[40]).toMatchObject({
      tick: 40,
      states: { legs: 'Slide' },
      stance: 'tucked',
      grounded: true,
    });
    expect(Object.keys(run.ticks[0]!).sort()).toEqual([
      'grounded',
      'stance',
      'states',
      'tick',
      'vx',
      'vy',
      'x',
      'y',
    ]);
    expect(run.taken[0]).toEqual({ tick: 12, lane: 'legs', from: 'Trot', to: 'Slide' });
    expect(run.expectations.every((e) => e.passed)).toBe(true);
  });

  it('takes another rate, and exits 1 when an expectation fails', () => {
    const slow = glenmark(
      'run',
      'examples/courier.yaml',
      ...YARD,
      '--tape',
      'examples/culvert-slide.yaml',
      '--rate',
      '30',
      '--format',
      'json',
    );
    expect((JSON.parse(slow.out) as { ticks: unknown[] }).ticks).toHaveLength(90);
    const tape = file(
      'fails.yaml',
      readFileSync(join(root, 'examples/culvert-slide.yaml'), 'utf8').replace(
        'at 40 in Slide',
        'at 40 in Trot',
      ),
    );
    const failed = glenmark('run', 'examples/courier.yaml', ...YARD, '--tape', tape);
    expect(failed.status).toBe(1);
    expect(failed.out).toContain('FAIL  at 40 in Trot');
  });
});

describe('unreadable input exits 2 with file, line and column', () => {
  it.each([
    [
      'unknown-key.yaml',
      courier.replace('gravity:', 'gravty:'),
      /unknown-key\.yaml:7:1: unknown key 'gravty'/,
    ],
    [
      'wrong-unit.yaml',
      courier.replace('34 m/s2', '34 m/s'),
      /wrong-unit\.yaml:7:10: found a speed, expected an acceleration/,
    ],
    [
      'missing-state.yaml',
      courier.replace('to: Slide', 'to: Slied'),
      /missing-state\.yaml:\d+:\d+: no state/,
    ],
    [
      'cyclic.yaml',
      courier.replace('secondHop: 0.8 * hopSpeed', 'secondHop: 0.8 * secondHop'),
      /cyclic\.yaml:13:\d+: 'secondHop' depends on itself/,
    ],
    ['broken.yaml', 'glenmark: 1\nname: [', /broken\.yaml:2:\d+: the YAML is broken here/],
    ['noise.yaml', 'x'.repeat(20_000_000), /noise\.yaml:1:1: found 20000000/],
    ['empty.yaml', '', /empty\.yaml:1:1: found nothing/],
  ])('%s', (name, text, message) => {
    const { status, err, out } = glenmark('check', file(name, text));
    expect(err).toMatch(message);
    expect([status, out]).toEqual([2, '']);
  });

  it('a file that is not there, a tape whose course was not given, an option that is wrong', () => {
    expect(glenmark('check', 'nowhere.yaml')).toMatchObject({
      status: 2,
      err: 'nowhere.yaml:1:1: there is no such file\n',
    });
    expect(glenmark('check', 'examples/courier.yaml', '--tape', 'examples/culvert-slide.yaml').err).toContain(
      'none was given with --course',
    );
    expect(
      glenmark(
        'run',
        'examples/courier.yaml',
        ...YARD,
        '--tape',
        'examples/culvert-slide.yaml',
        '--rate',
        'fast',
      ).status,
    ).toBe(2);
    expect(glenmark('check').status).toBe(2);
  });
});
