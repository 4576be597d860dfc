import { beforeAll, describe, expect, it } from 'vitest';
import {
  type Finding,
  findAll,
  merged,
  proveAll,
  repairsOf,
  scoutAll,
  signsIn,
} from '@glenmark/core/findings';
import { edit } from '@glenmark/core/model';
import { readTape, runTape } from '@glenmark/core/run';
import { readCourse } from '@glenmark/core/world';
import { machineOf, sample } from './helpers.js';

const draft = sample('courier-draft.yaml');
const yard = readCourse(sample('mill-yard.yaml')).course!;

describe('repairs of the draft', () => {
  let findings: Finding[] = [];
  beforeAll(async () => {
    const machine = machineOf(draft);
    const proved = proveAll(machine);
    const scouting = await scoutAll(machine, [yard], proved, {
      seed: 1,
      situations: 60_000,
    });
    findings = merged(proved.findings, scouting.findings);
  }, 60_000);

  it('each loads, and its finding is gone; nothing else that was proved comes of it', () => {
    const machine = machineOf(draft);
    const repaired: string[] = [];
    for (const finding of findings) {
      for (const { title, changes } of repairsOf(machine, finding)) {
        expect(title).toMatch(/^[A-Z]/);
        const mended = machineOf(edit(draft, changes));
        repaired.push(finding.code);
        if (finding.certainty === 'witnessed') {
          const { session } = runTape(mended, yard, readTape(finding.witness!.text!).tape!);
          const shown = signsIn(mended, session!.trace.records).map((s) => s.finding.fingerprint);
          expect(shown, title).not.toContain(finding.fingerprint);
        }
        const before = findAll(machine, []).map((f) => f.fingerprint);
        const after = findAll(mended, []).map((f) => f.fingerprint);
        expect(after, title).not.toContain(finding.fingerprint);
        // What was hidden behind a fault may show once it is mended; nothing else does.
        expect(
          after.filter((f) => !before.includes(f) && !/^(IN5|OUT|IN3)/.test(f)),
          title,
        ).toEqual([]);
      }
    }
    expect([...new Set(repaired)].sort()).toEqual(
      ['AG1', 'AG2', 'AG6', 'IN3', 'OUT1', 'OUT2', 'OUT5', 'RK2', 'RK4', 'RK6', 'TD7'].sort(),
    );
  });
});
