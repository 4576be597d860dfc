import { cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { glenmark, root } from './glenmark.js';

let folder: string;
const at = (...path: string[]): string => join(folder, ...path);
const example = (file: string): string => join(root, 'examples', file);

beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'glenmark-several-'));
  mkdirSync(at('tapes'));
  mkdirSync(at('node_modules'));
  for (const file of ['courier.yaml', 'courier-draft.yaml', 'mill-yard.yaml'])
    cpSync(example(file), at(file));
  for (const file of ['culvert-slide.yaml', 'yard-crossing.yaml', 'draft-tuck.yaml'])
    cpSync(example(file), at('tapes', file));
  writeFileSync(at('settings.yaml'), 'indent: 2\n');
  cpSync(example('signal-kite.yaml'), at('node_modules', 'signal-kite.yaml'));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

interface Report {
  movesets: { moveset: string; findings: { fingerprint: string; known?: boolean; code: string }[] }[];
  summary: Record<string, number>;
}

const jsonOf = (...args: string[]): Report => JSON.parse(glenmark(...args, '--format', 'json').out) as Report;

describe('a folder', () => {
  it('is checked as each of its movesets with its own tapes is by itself', () => {
    const { status, out, err } = glenmark('check', folder);
    expect(status).toBe(1);
    expect(out).toContain('Courier: nothing found\n');
    expect(out).toMatch(/2 movesets checked: 19 findings, \d+ count\.\n$/);
    expect(err).toBe('1 file left out: no documents of Glenmark\n');
    const alone = JSON.parse(
      glenmark(
        'check',
        at('courier-draft.yaml'),
        '--course',
        at('mill-yard.yaml'),
        '--tape',
        at('tapes/draft-tuck.yaml'),
        '--format',
        'json',
      ).out,
    ) as Report['movesets'][number];
    const { movesets, summary } = jsonOf('check', folder);
    expect(movesets.find((m) => m.moveset === 'Courier draft')).toEqual(alone);
    expect(summary).toMatchObject({ movesets: 2, findings: alone.findings.length, known: 0 });
  });

  it('has all its tapes played, each on its moveset and course', () => {
    const { status, out } = glenmark('run', folder);
    expect(status).toBe(0);
    expect(out).toContain('pass  Courier plays “Culvert slide” on Mill yard: 6/6 as expected\n');
    expect(out).toMatch(/\n3 tapes played: all as expected\.\n$/);
    const { tapes } = JSON.parse(glenmark('run', folder, '--format', 'json').out) as {
      tapes: { tape: string; digest: string }[];
    };
    const alone = JSON.parse(
      glenmark(
        'run',
        at('courier.yaml'),
        '--course',
        at('mill-yard.yaml'),
        '--tape',
        at('tapes/culvert-slide.yaml'),
        '--format',
        'json',
      ).out,
    ) as { digest: string };
    expect(tapes.find((t) => t.tape === 'Culvert slide')!.digest).toBe(alone.digest);
  });

  it('exits 1 when a tape meets less than it expects, and names what and where', () => {
    const slow = at('slow');
    mkdirSync(slow);
    cpSync(at('mill-yard.yaml'), join(slow, 'mill-yard.yaml'));
    cpSync(at('tapes/yard-crossing.yaml'), join(slow, 'yard-crossing.yaml'));
    const text = readFileSync(at('courier.yaml'), 'utf8');
    writeFileSync(join(slow, 'courier.yaml'), text.replace(/^gravity: .*$/m, 'gravity: 400 m/s2'));
    const { status, out } = glenmark('run', slow);
    expect(status).toBe(1);
    expect(out).toMatch(/^FAIL {2}Courier plays “Yard crossing” on Mill yard: [0-5]\/6 as expected\n {6}\S/);
    expect(out).toContain('1 tape played: 1 not as expected.');
    rmSync(slow, { recursive: true });
  });

  it('gives a tape to the nearest of the movesets that have its name', () => {
    const other = at('other');
    mkdirSync(other);
    const text = readFileSync(at('courier.yaml'), 'utf8');
    writeFileSync(join(other, 'courier.yaml'), text.replace(/^gravity: .*$/m, 'gravity: 400 m/s2'));
    cpSync(example('yard-crossing.yaml'), join(other, 'yard-crossing.yaml'));
    const { tapes } = JSON.parse(glenmark('run', folder, '--format', 'json').out) as {
      tapes: { tape: string; expectations: { passed: boolean }[] }[];
    };
    const crossings = tapes.filter((t) => t.tape === 'Yard crossing');
    expect(crossings.map((t) => t.expectations.every((e) => e.passed)).sort()).toEqual([false, true]);
    rmSync(other, { recursive: true });
  });
});

describe('patterns and lists', () => {
  it('are the files that they name', () => {
    expect(glenmark('check', at('cour*.yaml')).out).toContain('2 movesets checked');
    expect(glenmark('check', at('courier.yaml'), at('courier-draft.yaml')).out).toContain(
      '2 movesets checked',
    );
    const { status, err } = glenmark('check', at('*.toml'));
    expect([status, err]).toEqual([2, `No file matches ${at('*.toml')}.\n`]);
    expect(glenmark('check', at('tapes')).err).toBe(`There is no moveset in ${at('tapes')}.\n`);
  });

  it('tell of all that cannot be read, each at its place', () => {
    const broken = at('broken');
    mkdirSync(broken);
    writeFileSync(join(broken, 'one.yaml'), 'glenmark: 1\nkind: moveset\nname: [\n');
    writeFileSync(
      join(broken, 'two.yaml'),
      readFileSync(at('courier.yaml'), 'utf8').replace('gravity:', 'gravty:'),
    );
    const { status, err } = glenmark('check', broken);
    expect(status).toBe(2);
    expect(err).toMatch(/one\.yaml:\d+:\d+: /);
    expect(err).toMatch(/two\.yaml:\d+:\d+: .*gravty/);
    rmSync(broken, { recursive: true });
  });

  it('write SARIF with a run, and JUnit with suites, for each moveset', () => {
    const sarif = JSON.parse(glenmark('check', folder, '--format', 'sarif').out) as { runs: object[] };
    expect(sarif.runs).toHaveLength(2);
    const { out } = glenmark('check', folder, '--format', 'junit');
    expect(out).toContain('<testsuites name="Courier draft, Courier"');
    expect(out).toContain('<testsuite name="Courier draft: Can’t get in"');
  });
});

describe('a baseline', () => {
  it('lets what is known pass, and only that', () => {
    const baseline = at('baseline.txt');
    const { movesets } = jsonOf('check', folder);
    const [draft] = movesets.filter((m) => m.findings.length > 0);
    const write = (report: unknown): void => writeFileSync(baseline, JSON.stringify(report));
    write({ movesets });
    const same = glenmark('check', folder, '--baseline', baseline);
    expect(same.status).toBe(0);
    expect(same.out).toContain('Courier draft: nothing new found');
    expect(same.out).toContain('2 movesets checked: 19 findings, 19 known from the baseline.');

    // One that is not in it is new; one that is in it and was not found is gone.
    const [first, ...rest] = draft!.findings;
    write({ ...draft, findings: [...rest, { fingerprint: 'IN1/legs/Nowhere', accepted: null }] });
    const { status, out, err } = glenmark('check', folder, '--baseline', baseline);
    expect(status).toBe(1);
    expect(out).toContain('Courier draft: 1 new finding\n');
    expect(out).toContain(first!.code);
    expect(err).toContain('Courier draft: 1 finding of the baseline not found any more.');
    const known = jsonOf('check', folder, '--baseline', baseline).movesets.flatMap((m) => m.findings);
    expect(known.filter((f) => f.known === false).map((f) => f.fingerprint)).toEqual([first!.fingerprint]);
    const sarif = glenmark('check', folder, '--baseline', baseline, '--format', 'sarif').out;
    expect(sarif.match(/"baselineState": "new"/g)).toHaveLength(1);
  });

  it('that is none is told of', () => {
    const file = at('baseline.txt');
    writeFileSync(file, '{"findings": 3}');
    expect(glenmark('check', folder, '--baseline', file)).toMatchObject({
      status: 2,
      err: `${file}: expected what 'glenmark check --format json' printed\n`,
    });
    writeFileSync(file, 'nothing');
    expect(glenmark('check', folder, '--baseline', file).err).toContain(`${file}: no JSON: `);
    expect(glenmark('check', folder, '--baseline', at('missing.json')).status).toBe(2);
  });
});
