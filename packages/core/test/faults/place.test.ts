import { describe, expect, it } from 'vitest';
import { proveAll, proveOn, scoutAll } from '@glenmark/core/findings';
import { readCourse } from '@glenmark/core/world';
import { machineOf, movesetText } from '../helpers.js';

const course = (extra: string, tag = 'stone') =>
  readCourse(
    `glenmark: 1\nkind: course\nname: Quay\nsolids:\n  - { box: [[-9 m, -1 m], [9 m, 0 m]], tag: ${tag} }\n${extra}spawns: { start: { at: [0 m, 0 m] } }\n`,
  ).course!;
const zone = (tag: string, more = ''): string =>
  `zones:\n  - { box: [[2 m, 0 m], [4 m, 3 m]], tag: ${tag}${more} }\n`;

/** What is proved on a course and not on all. */
const told = (text: string, on: ReturnType<typeof course>): string[] => {
  const machine = machineOf(text);
  return proveOn(machine, [on], proveAll(machine).findings).map(
    (f) => `${f.code} ${f.certainty} ${f.sentence}`,
  );
};

const asking = (guard: string, extra = ''): string =>
  movesetText({
    states: '      A: {}\n      B: {}\n      C: {}',
    crossings: `      - { from: A, to: C, when: pressed(hop) }
      - { from: C, to: A, when: pressed(hop) }
      - { from: A, to: B, when: ${guard} }
      - { from: B, to: A, when: pressed(hop) }`,
    extra,
    initial: 'A',
  });

describe('what a course rules out', () => {
  it('a zone that it does not have', () => {
    const text = asking('inside(draught) and pressed(dash)');
    expect(told(text, course(zone('mist')))).toEqual([
      'IN2 proved B can never be entered: its only way in, from A, asks for `inside(draught)`, but Quay has no zone that is tagged draught.',
    ]);
    expect(told(text, course(zone('draught')))).toEqual([]);
  });

  it('a surface that a probe looks for', () => {
    const text = asking('probe(brow)').replace(
      'body:',
      'body:\n  probes: { brow: { from: [0 m, 1 m], toward: ahead, reach: 1 m, sees: [moss] } }',
    );
    expect(told(text, course(''))).toEqual([
      'IN2 proved B can never be entered: its only way in, from A, asks for `probe(brow)`, but Quay has nothing solid that is tagged moss.',
    ]);
    expect(told(text, course('', 'moss'))).toEqual([]);
  });

  it('an ability that nothing on it unlocks', () => {
    const text = asking('pressed(dash), ability: dive', 'abilities: { dive: { locked: true } }');
    expect(told(text, course(zone('mist')))).toEqual([
      'IN2 proved B can never be entered: its only way in, from A, stays shut, because nothing on Quay unlocks dive.',
    ]);
    expect(told(text, course(zone('mist', ', unlocks: dive')))).toEqual([]);
  });

  it('is told in place of a search that did not get there', async () => {
    const machine = machineOf(asking('inside(draught) and pressed(dash)'));
    const on = course('');
    const { findings } = await scoutAll(machine, [on], proveAll(machine), { seed: 1, situations: 300 });
    const about = findings.filter((f) => f.state === 'B').map((f) => `${f.code} ${f.certainty}`);
    expect(about).toEqual(['IN2 proved']);
  });

  it('leaves the nearest approach to be explained by the facts of the state itself', async () => {
    const machine = machineOf(
      movesetText({
        states: '      A: {}\n      B: {}\n      C: {}',
        crossings: `      - { from: A, to: B, when: grounded and pressed(hop), do: ["vy := 8 m/s"] }
      - { from: B, to: C, when: airborne and elapsed >= 60 s }
      - { from: B, to: A, when: grounded for 0.1 s }
      - { from: C, to: A, when: grounded }`,
        initial: 'A',
      }),
    );
    const { findings } = await scoutAll(machine, [course('')], proveAll(machine), {
      seed: 1,
      situations: 600,
    });
    const [missed] = findings.filter((f) => f.code === 'IN4' && f.state === 'C');
    expect(missed!.reason.join('\n')).toContain('missing was `elapsed >= 60 s`.');
  });
});
