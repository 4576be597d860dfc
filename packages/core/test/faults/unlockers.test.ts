import { describe, expect, it } from 'vitest';
import { type Finding, proveAll, proveOn, scoutAll } from '@glenmark/core/findings';
import { readTape, runTape } from '@glenmark/core/run';
import { type Course, readCourse } from '@glenmark/core/world';
import { machineOf, movesetText } from '../helpers.js';

const DRIVE = 'motion: { drive: { to: axis(move) * 5 m/s, gain: 60 m/s2, brake: 60 m/s2 } }';

const walker = (isLocked: boolean) =>
  machineOf(
    movesetText({
      extra: `abilities: { leap: { locked: ${isLocked} } }`,
      states: `      Walk: { stance: tall, ${DRIVE} }\n      Leap: { stance: tall, ${DRIVE} }`,
      crossings: `      - { from: Walk, to: Leap, when: pressed(hop), ability: leap, do: ["vy := 12 m/s"] }
      - { from: Leap, to: Walk, when: grounded and vy <= 0 }`,
      initial: 'Walk',
    }),
  );

/** A floor of 20 m between walls, with a feather above it and one beside it. */
function yard(...feathers: string[]): Course {
  const zones = feathers.map(
    (box, i) => `  - { name: feather ${i + 1}, box: ${box}, tag: pickup, unlocks: leap }\n`,
  );
  return readCourse(`glenmark: 1
kind: course
name: Yard
solids:
  - { box: [[-10 m, -1 m], [10 m, 0 m]] }
  - { box: [[-11 m, -1 m], [-10 m, 40 m]] }
  - { box: [[10 m, -1 m], [11 m, 40 m]] }
  - { box: [[-11 m, 40 m], [11 m, 41 m]] }
zones:
${zones.join('')}spawns: { start: { at: [0 m, 0 m] } }
`).course!;
}

const ON_THE_WAY = '[[5 m, 0 m], [6 m, 1 m]]';
const TOO_HIGH = '[[5 m, 8 m], [6 m, 9 m]]';
const OUTSIDE = '[[20 m, 0 m], [21 m, 1 m]]';

async function zonesOf(machine: ReturnType<typeof walker>, course: Course): Promise<Finding[]> {
  const { findings } = await scoutAll(machine, [course], proveAll(machine), { seed: 1, situations: 2_000 });
  return findings.filter((f) => f.code === 'IN6');
}

describe('a zone that unlocks an ability', () => {
  it('is told of when it was not reached, with how near one came, and the tape that came nearest', async () => {
    const machine = walker(true);
    const course = yard(TOO_HIGH);
    const [finding, ...others] = await zonesOf(machine, course);
    expect(others).toEqual([]);
    expect(finding).toMatchObject({ certainty: 'suspected', path: ['abilities', 'leap'] });
    expect(finding!.sentence).toContain('The zone feather 1 on Yard, which unlocks leap, was not reached in');
    // Who only walks stays below it.
    expect(finding!.evidence).toMatchObject({ searched: { nearest: 8 } });
    const { tape } = readTape(finding!.witness!.text!);
    const { session } = runTape(machine, course, tape!);
    const { x } = session!.trace.records[finding!.witness!.tick]!.body;
    expect(x).toBeGreaterThanOrEqual(5);
    expect(x).toBeLessThanOrEqual(6);
  });

  it('is not told of when it was reached, or when nothing is locked', async () => {
    expect(await zonesOf(walker(true), yard(ON_THE_WAY))).toEqual([]);
    expect(await zonesOf(walker(false), yard(TOO_HIGH))).toEqual([]);
  });

  it('is told of for itself, when another unlocks the same', async () => {
    const findings = await zonesOf(walker(true), yard(ON_THE_WAY, '[[5 m, 30 m], [6 m, 31 m]]'));
    expect(findings.map((f) => f.code === 'IN6' && f.evidence.zone)).toEqual(['feather 2']);
  });

  it('is proved out of reach where it is walled off', async () => {
    const machine = walker(true);
    const proved = proveOn(machine, [yard(OUTSIDE)], []).filter((f) => f.code === 'IN6');
    expect(proved.map((f) => [f.certainty, f.sentence])).toEqual([
      ['proved', 'The body never comes to the zone feather 1 on Yard, which unlocks leap.'],
    ]);
    // Once, by proof.
    expect((await zonesOf(machine, yard(OUTSIDE))).map((f) => f.certainty)).toEqual(['proved']);
    expect(proveOn(machine, [yard(TOO_HIGH)], []).filter((f) => f.code === 'IN6')).toEqual([]);
  });
});
