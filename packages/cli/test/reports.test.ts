import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { check, FAIL_ON } from '../src/check.js';

/** A moveset with one proved fault, one short probe, and one thing that is never read. */
const FAULTY = `glenmark: 1
kind: moveset
name: Reports
controls: { hop: { button: [Space] } }
body:
  stances: { tall: { shape: box, width: 0.7 m, height: 1.7 m } }
  probes: { brow: { from: [0 m, 1 m], toward: ahead, reach: 0.1 m } }
dials: { unused: 3 }
accept:
  - { finding: IN2/legs/Gone, because: was meant }
  - { finding: RK1/legs/A>B, because: was meant too }
lanes:
  - name: legs
    initial: A
    states: { A: { stance: tall }, B: { stance: tall } }
    crossings:
      - { from: A, to: B, when: pressed(hop) or probe(brow) }
`;

let folder: string;
const checked = async (options: Partial<Parameters<typeof check>[1]>) => {
  const file = join(folder, 'faulty.yaml');
  writeFileSync(file, FAULTY);
  return check(
    [file],
    { course: [], tape: [], format: 'text', seed: 1, workers: 1, failOn: 'risky', rates: [], ...options },
    () => undefined,
  );
};

describe('reports', () => {
  beforeAll(() => (folder = mkdtempSync(join(tmpdir(), 'glenmark-reports-'))));
  afterAll(() => rmSync(folder, { recursive: true }));

  it('JUnit skips what was never played, and passes what does not make the check fail', async () => {
    const { output, exitCode } = await checked({ format: 'junit', failOn: 'proved' });
    expect(exitCode).toBe(1);
    const caseOf = (code: string): string =>
      output.split('\n').find((line) => line.includes(`name="${code} `))!;
    for (const code of ['AG4', 'RK1', 'RK5', 'OUT6', 'IN4'])
      expect(caseOf(code)).toContain('<skipped message="Not tested');
    expect(caseOf('OUT1')).toContain('<failure type="proved"');
    expect(caseOf('RK4')).toContain('<failure type="proved"');
    expect(caseOf('TD1')).toContain('<system-out>proved: Nothing is worked out from the dial unused.');
    expect(caseOf('IN1')).toMatch(/no way in"\/>$/);
    const failures = output.match(/<failure /g)!.length;
    expect(output).toContain(`failures="${failures}" errors="0">`);
    const tidy = await checked({ format: 'junit', failOn: 'tidy' });
    expect(tidy.output.match(/<failure /g)!.length).toBeGreaterThan(failures);
  });

  it('what is accepted and was not found is named, unless only a run could show it', async () => {
    const { warnings } = await checked({});
    expect(warnings).toEqual([
      'The accepted finding IN2/legs/Gone was not found in this check: it may be mended or renamed.',
    ]);
    const { output } = await checked({ format: 'json' });
    expect((JSON.parse(output) as { staleAccepts: string[] }).staleAccepts).toEqual(['IN2/legs/Gone']);
    expect((await checked({ format: 'sarif' })).output).toContain('IN2/legs/Gone was not found');
  });

  it('JSON offers the repairs that were tried, and none for what is accepted', async () => {
    const { output } = await checked({ format: 'json' });
    const { findings } = JSON.parse(output) as { findings: { code: string; repairs: { title: string }[] }[] };
    const of = (code: string) => findings.find((f) => f.code === code)!.repairs.map((r) => r.title);
    expect(of('OUT1')).toEqual(['Add a crossing from B to A after 0.5 s']);
    expect(of('RK4')).toEqual(['Let brow reach 0.45 m, 10 cm beyond the body']);
    expect(of('TD1')).toEqual([]);
  });

  it('each level of --fail-on fails on no less than the one before', async () => {
    const codes: number[] = [];
    for (const failOn of FAIL_ON) codes.push((await checked({ failOn })).exitCode);
    expect(codes).toEqual([...codes].sort());
  });
});
