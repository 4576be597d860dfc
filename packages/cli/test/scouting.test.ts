import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import AjvDraft04 from 'ajv-draft-04';
import addFormats from 'ajv-formats';
import { afterAll, describe, expect, it } from 'vitest';
import { glenmark } from './glenmark.js';

const folder = mkdtempSync(join(tmpdir(), 'glenmark-scouting-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const YARD = ['--course', 'examples/mill-yard.yaml'];

/** The schema of SARIF 2.1.0 as it is published, in JSON Schema draft 4. */
const { default: SARIF } = (await import('@microsoft/jest-sarif/lib/schemas/sarif-2.1.0-rtm.5.json', {
  with: { type: 'json' },
})) as { default: object };

interface Sarif {
  runs: { results: { ruleId: string; level: string; suppressions?: unknown[] }[] }[];
}

describe('check --scout', () => {
  it('gives the same report with one worker and with two, and writes tapes that run', () => {
    const args = ['check', 'examples/courier-draft.yaml', ...YARD, '--scout', '12000', '--format', 'json'];
    const one = glenmark(...args, '--witness-dir', folder);
    const two = glenmark(...args, '--workers', '2');
    expect(one.err).toBe(two.err);
    expect(two.out).toBe(one.out);
    expect(one.status).toBe(1);
    const { scouting } = JSON.parse(one.out) as { scouting: { situations: number } };
    expect(scouting.situations).toBeGreaterThanOrEqual(12_000);
    const tapes = readdirSync(folder);
    expect(tapes.length).toBeGreaterThan(4);
    for (const tape of tapes)
      expect(
        glenmark('run', 'examples/courier-draft.yaml', ...YARD, '--tape', join(folder, tape)),
      ).toMatchObject({
        status: 0,
      });
  }, 60_000);

  it('says no when there is no course, and refuses a budget that is none', () => {
    expect(glenmark('check', 'examples/courier.yaml', '--scout', '100')).toMatchObject({
      status: 2,
      err: '--scout needs a course: give one with --course\n',
    });
    for (const budget of ['-1', 'many', '2000000000'])
      expect(glenmark('check', 'examples/courier.yaml', ...YARD, '--scout', budget).status).toBe(2);
  });

  it('--fail-on says how sure a finding must be; what is accepted never fails', () => {
    const status = (failOn: string): number | null =>
      glenmark(
        'check',
        'examples/lock-keeper.yaml',
        '--course',
        'examples/lower-quay.yaml',
        '--scout',
        '500',
        '--fail-on',
        failOn,
      ).status;
    // So short a scouting only suspects that it did not get everywhere.
    expect(status('witnessed')).toBe(0);
    expect(status('suspected')).toBe(1);
  });
});

describe('formats', () => {
  const sarif = JSON.parse(
    glenmark('check', 'examples/courier-draft.yaml', ...YARD, '--scout', '12000', '--format', 'sarif').out,
  ) as Sarif;

  it('SARIF is valid by the published schema, with levels, places and suppressions', () => {
    const ajv = new AjvDraft04.default({ strict: false, unicodeRegExp: false });
    addFormats.default(ajv as never);
    const valid = ajv.compile(SARIF);
    expect(valid(sarif), JSON.stringify(valid.errors)).toBe(true);
    const { results } = sarif.runs[0]!;
    expect(results.find((r) => r.ruleId === 'IN2')!.level).toBe('error');
    expect(results.find((r) => r.ruleId === 'RK2')!.level).toBe('warning');
    expect(results.filter((r) => r.suppressions !== undefined).map((r) => r.ruleId)).toContain('AG2');
  });

  it('JUnit is well-formed, counts what it has, and escapes what it must', () => {
    const { out } = glenmark('check', 'examples/courier-draft.yaml', ...YARD, '--format', 'junit');
    const open: string[] = [];
    const tags = out.matchAll(/<(\/?)([a-z]+)((?:\s[a-z]+="[^"<]*")*)(\/?)>/g);
    for (const [, closes, name, , empty] of tags) {
      if (closes === '/') expect(open.pop()).toBe(name);
      else if (empty !== '/') open.push(name!);
    }
    expect(open).toEqual([]);
    expect(out.replace(/<[^<>]*>/g, '')).not.toMatch(/[<>]|&(?!amp;|lt;|gt;|quot;|#10;)/);
    const [, tests, failures] = /<testsuites name="[^"]*" tests="(\d+)" failures="(\d+)"/
      .exec(out)!
      .map(Number);
    expect([...out.matchAll(/<testcase /g)]).toHaveLength(tests!);
    expect([...out.matchAll(/<failure /g)]).toHaveLength(failures!);
  });
});
