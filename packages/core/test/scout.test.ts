import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  CATALOGUE,
  createScouting,
  findAll,
  type Finding,
  merged,
  proveAll,
  rateFindings,
  scoutAll,
  signsIn,
} from '@glenmark/core/findings';
import { createFast, readMoveset, slotOf } from '@glenmark/core/machine';
import { evaluate, type FactName, type FactRef } from '@glenmark/core/notation';
import { play, readTape, recordsFast, runTape } from '@glenmark/core/run';
import {
  type Arena,
  createArena,
  createExpander,
  createKeySet,
  createNearest,
  createScout,
  distanceOf,
  type Round,
  shrink,
  SLOTS,
  startsOf,
} from '@glenmark/core/scout';
import { buildWorld, fits, readCourse } from '@glenmark/core/world';
import { courseOf, FLOOR, machineOf, movesetText, sample } from './helpers.js';
import { randomCase } from './random-moveset.js';

const yard = readCourse(sample('mill-yard.yaml')).course!;

async function scouted(file: string, situations: number, seed = 1): Promise<Finding[]> {
  const machine = machineOf(sample(file));
  const proved = proveAll(machine);
  const { findings } = await scoutAll(machine, [yard], proved, { seed, situations });
  return merged(proved.findings, findings);
}

/** Facts of the sample that are numbers. */
const NUMBERS: ReadonlySet<FactName> = new Set(['vx', 'vy', 'speed', 'elapsed', 'laneElapsed', 'left']);
const isNumber = (ref: FactRef | undefined): boolean =>
  ref !== undefined &&
  (NUMBERS.has(ref.fact) || (ref.fact === 'variable' && /^(hops|kicks)Left$/.test(ref.of ?? '')));

describe('scouting', () => {
  it('gives the same report for the same seed and budget, wherever the moves are tried', async () => {
    const machine = machineOf(sample('courier.yaml'));
    const options = { seed: 5, situations: 6000 };
    const here = await scoutAll(machine, [yard], { findings: [], traps: [] }, options);
    // Elsewhere: expanders of their own, as worker threads have them, each with a third of every round.
    const scouting = createScouting(machine, [yard], { findings: [], traps: [] }, { seed: 5 });
    const fast = createFast(machine, buildWorld(yard, machine.stances, machine.casts));
    const [{ buffer }] = scouting.arenas as [Arena];
    const expanders = [0, 1, 2].map(() => createExpander(fast, createArena(fast, SLOTS, buffer)));
    const there = {
      ...options,
      expand: (_: number, { tasks, goals }: Round) => ({
        finish: () =>
          Promise.resolve(tasks.map(({ slot }, i) => expanders[Math.floor(i / 22)]!.expand(slot, goals))),
      }),
    };
    await scouting.advance(there);
    expect(scouting.report()).toEqual(here);
    expect(here.situations).toBeGreaterThanOrEqual(6000);
    const other = await scoutAll(machine, [yard], { findings: [], traps: [] }, { ...options, seed: 6 });
    expect(other.ticks).not.toBe(here.ticks);
  });

  it('stopped and taken up again comes to where it would have come at once', async () => {
    const machine = machineOf(sample('courier-draft.yaml'));
    const { findings: told, traps } = proveAll(machine);
    const whole = createScouting(machine, [yard], { findings: told, traps }, { seed: 3 });
    await whole.advance({ situations: 4000 });
    const parts = createScouting(machine, [yard], { findings: told, traps }, { seed: 3 });
    let rounds = 0;
    await parts.advance({ situations: 4000, goesOn: () => rounds++ < 5 });
    const { situations, findings } = parts.report();
    expect(situations).toBeLessThan(4000);
    expect(findings.length).toBeGreaterThan(0);
    await parts.advance({ situations: 4000 });
    expect(parts.report().coverage).toEqual(whole.report().coverage);
    expect(new Set(parts.report().findings.map((f) => f.fingerprint))).toEqual(
      new Set(whole.report().findings.map((f) => f.fingerprint)),
    );
  });

  it('begins facing both ways, and with a grid at every place where the body fits', () => {
    const machine = machineOf(sample('courier.yaml'));
    const world = buildWorld(yard, machine.stances, machine.casts);
    const spawns = startsOf(machine, world);
    expect(spawns.map((s) => s.facing).sort()).toEqual([-1, -1, -1, -1, 1, 1, 1, 1]);
    const starts = startsOf(machine, world, 3).slice(spawns.length);
    expect(starts.length).toBeGreaterThan(20);
    for (const { x, y } of starts) expect(machine.stances.some((_, i) => fits(world, i, x, y))).toBe(true);
    // A grid too fine for so large a course is made coarser.
    expect(startsOf(machine, world, 0.25).length).toBeLessThanOrEqual(500 + spawns.length);
  });

  it('a witness from a grid is a tape that anyone can run', async () => {
    const machine = machineOf(sample('courier-draft.yaml'));
    const { findings } = await scoutAll(
      machine,
      [yard],
      { findings: [], traps: [] },
      { seed: 1, situations: 3000, grid: 4 },
    );
    const texts = findings.flatMap((f) => f.witness?.text ?? []);
    expect(texts.some((text) => /^at: \[/m.test(text))).toBe(true);
    for (const text of texts) {
      const { session, diagnostics } = runTape(machine, yard, readTape(text).tape!);
      expect(diagnostics).toEqual([]);
      expect(session!.expectations.filter((e) => !e.passed)).toEqual([]);
    }
  });

  it('uses every state and crossing of the courier, and finds nothing', async () => {
    const machine = machineOf(sample('courier.yaml'));
    const { findings, coverage } = await scoutAll(
      machine,
      [yard],
      { findings: [], traps: [] },
      { seed: 1, situations: 40_000 },
    );
    expect(findings).toEqual([]);
    expect(coverage.states).toHaveLength(coverage.ofStates);
    expect(coverage.crossings).toHaveLength(coverage.ofCrossings);
  });

  it('finds every planted fault of the draft, and every witness is a tape that shows it', async () => {
    const table = readFileSync(new URL('../../../examples/courier-draft.faults.md', import.meta.url), 'utf8');
    const planted = [...table.matchAll(/^\| ([A-Z]+\d+) \|/gm)].map((m) => m[1]!);
    expect(new Set(planted).size).toBeGreaterThanOrEqual(16);
    const findings = await scouted('courier-draft.yaml', 60_000);
    expect([...new Set(findings.map((f) => f.code))].sort()).toEqual([...new Set(planted)].sort());
    const machine = machineOf(sample('courier-draft.yaml'));
    const witnessed = findings.filter((f) => f.certainty === 'witnessed');
    expect(witnessed.length).toBeGreaterThan(8);
    for (const { witness, fingerprint, code } of witnessed) {
      const { tape, diagnostics } = readTape(witness!.text!);
      expect(diagnostics).toEqual([]);
      const { session } = runTape(machine, yard, tape!);
      expect(session!.expectations.every((e) => e.passed)).toBe(true);
      // A trap is shown by the skeleton or by a search, not by one run.
      if (!code.startsWith('OUT'))
        expect(signsIn(machine, session!.trace.records).map((s) => s.finding.fingerprint)).toContain(
          fingerprint,
        );
    }
  }, 120_000);

  it('says how near it came to what it did not reach, and calls nothing unreachable', async () => {
    const text = movesetText({
      states:
        '      Walk: { stance: tall, motion: { drive: { to: axis(move) * 3 m/s, gain: 30 m/s2 } } }\n      Fly: { stance: tall }',
      crossings:
        '      - { from: Walk, to: Fly, when: speed > 3.5 m/s and pressed(hop) }\n      - { from: Fly, to: Walk, when: grounded }',
      initial: 'Walk',
    });
    const machine = machineOf(text);
    const { findings } = await scoutAll(
      machine,
      [courseOf(FLOOR)],
      { findings: [], traps: [] },
      { seed: 1, situations: 3000 },
    );
    expect(findings.map((f) => `${f.code} ${f.certainty} ${f.state}`)).toEqual(['IN4 suspected Fly']);
    expect(findings[0]!.reason.join()).toContain('`speed > 3.5 m/s`');
    // The tape that came nearest is there: it ends in the tick that the reason tells of, in Walk, with hop pressed.
    const { tick, text: tape } = findings[0]!.witness!;
    const { records } = runTape(machine, courseOf(FLOOR), readTape(tape!).tape!).session!.trace;
    expect(records).toHaveLength(tick + 1);
    expect(findings[0]!.reason.join()).toContain(`after ${records.length} ticks`);
    const fact = (name: FactName, of?: string): number =>
      records[tick]!.facts[slotOf(machine.facts, name, of)]!;
    expect([fact('in', 'Walk'), fact('pressed', 'hop')]).toEqual([1, 1]);
    expect(fact('speed')).toBeLessThanOrEqual(3.5);
  });

  it('a place from which the body can never stand up again is cramped, with the tape that leads there', async () => {
    const text = movesetText({
      states: `      Walk: { stance: tall, motion: { drive: { to: axis(move) * 4 m/s, gain: 60 m/s2 } } }
      Roll: { stance: low, motion: { drive: { to: 3 m/s, instant: true } } }`,
      crossings:
        '      - { from: Walk, to: Roll, when: pressed(hop) }\n      - { from: Roll, to: Walk, when: elapsed >= 0.2 s }',
      initial: 'Walk',
    });
    const machine = machineOf(text);
    // A low tunnel with an end: who rolls in cannot stand up there.
    const tunnel = courseOf(
      `${FLOOR}\n  - { box: [[2 m, 1 m], [30 m, 3 m]] }\n  - { box: [[12 m, 0 m], [13 m, 1 m]] }`,
    );
    const { findings } = await scoutAll(
      machine,
      [tunnel],
      { findings: [], traps: [] },
      { seed: 1, situations: 20_000 },
    );
    expect(findings.map((f) => `${f.code} ${f.certainty} ${f.state}`)).toContain('OUT6 witnessed Roll');
    expect(findings.find((f) => f.code === 'OUT6')!.sentence).toContain('tall does not fit there');
  });
});

describe('the parts of the scout', () => {
  it('guard distance is 0 exactly when a guard holds', () => {
    const machine = machineOf(sample('marram.yaml'));
    const guards = machine.lanes.flatMap((l) => l.crossings.flatMap((c) => c.when ?? []));
    fc.assert(
      fc.property(
        fc.constantFrom(...guards),
        fc.array(fc.constantFrom(-20, -1, 0, 0, 0.05, 1, 1, 5), {
          minLength: machine.facts.refs.length,
          maxLength: machine.facts.refs.length,
        }),
        (guard, values) => {
          // Truth is 0 or 1; only these are numbers.
          const facts = Float64Array.from(values, (v, slot) =>
            isNumber(machine.facts.refs[slot]) ? v : Number(v > 0),
          );
          expect(distanceOf(guard, facts) === 0).toBe(evaluate(guard, facts) !== 0);
          expect(distanceOf(guard, facts, false) === 0).toBe(evaluate(guard, facts) === 0);
        },
      ),
      { numRuns: 3000 },
    );
  });

  it('a set of keys is a set, in which each key can be marked once', () => {
    const key = fc.tuple(fc.nat(40), fc.nat(40));
    fc.assert(
      fc.property(
        fc.array(fc.tuple(key, fc.boolean()), { maxLength: 3000 }),
        fc.array(key),
        (steps, more) => {
          const set = createKeySet(16);
          const model = new Set<string>();
          const marked = new Set<string>();
          // The lowest bit is no part of a key, and the empty place stands for one key that is another's.
          const nameOf = ([high, low]: [number, number]): string =>
            high < 2 && low === 0 ? '2,0' : `${high & ~1},${low}`;
          for (const [at, isMarked] of steps) {
            expect(set.add(...at)).toBe(!model.has(nameOf(at)));
            model.add(nameOf(at));
            if (!isMarked) continue;
            expect(set.mark(...at)).toBe(!marked.has(nameOf(at)));
            marked.add(nameOf(at));
          }
          set.addAll(Uint32Array.from([...more, [7, 7]].flat()), more.length);
          for (const at of more) model.add(nameOf(at));
          expect(set.size).toBe(model.size);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('the nearest nodes are the first few of all by distance, and of two as near the one that came first', () => {
    const distances = fc.array(fc.nat(20), { maxLength: 60 });
    fc.assert(
      fc.property(distances, fc.integer({ min: 1, max: 9 }), (all, most) => {
        const nearest = createNearest(most);
        for (const [node, distance] of all.entries()) {
          const isIn = distance < nearest.within();
          nearest.add(node, distance);
          expect(nearest.nodes.some((one) => one.node === node)).toBe(isIn);
        }
        const sorted = all
          .map((distance, node) => ({ node, distance }))
          .sort((a, b) => a.distance - b.distance);
        expect(nearest.nodes).toEqual(sorted.slice(0, most));
        expect(nearest.within()).toBe(sorted[most - 1]?.distance ?? Infinity);
      }),
    );
  });

  it('shrinking keeps what is shown, and leaves nothing that can be dropped by itself', () => {
    const input = fc.array(fc.tuple(fc.nat(1), fc.nat(1)), { minLength: 8, maxLength: 60 });
    fc.assert(
      fc.property(input, (inputs) => {
        // Shown when the first control was pressed for two ticks in all, and the second after that.
        const test = (list: readonly (readonly number[])[]): number => {
          let count = 0;
          return list.findIndex(([a, b]) => (count >= 2 && b === 1) || ((count += a!), false));
        };
        if (test(inputs) < 0) return;
        const short = shrink(inputs, test);
        expect(test(short)).toBe(short.length - 1);
        expect(short).toHaveLength(3);
      }),
      { numRuns: 200 },
    );
  });

  it('records of the fast machine are those of the reference, to the last bit', () => {
    fc.assert(
      fc.property(randomCase, ({ moveset, course: text, inputs }) => {
        const { machine } = readMoveset(moveset);
        const { course } = readCourse(text);
        if (machine === undefined || course === undefined) return;
        const spawn = course.spawns[0]!;
        const trace = play(machine, buildWorld(course, machine.stances, machine.casts), spawn, inputs);
        const fast = createFast(machine, buildWorld(course, machine.stances, machine.casts), {
          allFacts: true,
          log: true,
        });
        const records = recordsFast(fast, spawn, inputs);
        trace.records.forEach((record, t) => {
          const plain = (r: typeof record): unknown =>
            JSON.parse(
              JSON.stringify({
                ...r,
                contacts: r.contacts.length,
                taken: r.taken.map((c) => c.crossing.index),
              }),
            );
          expect(plain(records[t]!)).toEqual(plain(record));
        });
      }),
      { numRuns: 150 },
    );
  });

  it('scouting a course where nothing moves comes to an end', () => {
    const machine = machineOf(sample('signal-kite.yaml'));
    const scout = createScout(machine, yard, { seed: 1 });
    for (let i = 0; i < 20; i++) scout.round();
    expect(scout.progress().situations).toBeLessThan(5000);
  });
});

describe('what runs show', () => {
  it('nothing in the sample tapes of sound movesets', () => {
    for (const [moveset, course, tapes] of [
      ['courier.yaml', 'mill-yard.yaml', ['culvert-slide.yaml', 'yard-crossing.yaml', 'parasol-glide.yaml']],
      ['marram.yaml', 'tide-mill.yaml', ['shaft-climb.yaml', 'winch-swing.yaml', 'draught-ride.yaml']],
    ] as const) {
      const on = readCourse(sample(course)).course!;
      const list = tapes.map((t) => ({ tape: readTape(sample(t)).tape!, course: on }));
      const open = findAll(machineOf(sample(moveset)), list).filter((f) => f.accepted === undefined);
      expect(open).toEqual([]);
    }
  });

  it('every code of the catalogue that the draft does not show is known by name', () => {
    const table = readFileSync(new URL('../../../examples/courier-draft.faults.md', import.meta.url), 'utf8');
    const shown = new Set([...table.matchAll(/^\| ([A-Z]+\d+) \|/gm)].map((m) => m[1]!));
    const rest = Object.keys(CATALOGUE).filter((code) => !shown.has(code));
    // IN4 and OUT6 above, IN6 in faults/unlockers, RK7, RK9 and RK10 below, RK5 on the command line;
    // the other TDs have tests of their own.
    expect(rest.sort()).toEqual([
      'IN4',
      'IN6',
      'OUT6',
      'RK10',
      'RK11',
      'RK5',
      'RK7',
      'RK9',
      'TD2',
      'TD3',
      'TD4',
      'TD6',
      'TD8',
    ]);
  });

  it('RK10: pushed into a wall in the air, a state without gravity hangs there', () => {
    const text = movesetText({
      states: `      Walk: { stance: tall, motion: { drive: { to: axis(move) * 4 m/s, gain: 60 m/s2 }, gravity: 0 } }
      Other: { stance: tall }`,
      crossings:
        '      - { from: Walk, to: Other, when: pressed(dash) }\n      - { from: Other, to: Walk, when: pressed(dash) }',
      initial: 'Walk',
    });
    const machine = machineOf(text);
    const wall = courseOf(`${FLOOR}\n  - { box: [[1 m, 0 m], [2 m, 9 m]] }`, '[0 m, 4 m]');
    const world = buildWorld(wall, machine.stances);
    const inputs = Array.from({ length: 80 }, () => [1, 0, 0]);
    const { records } = play(machine, world, wall.spawns[0]!, inputs);
    expect(signsIn(machine, records).map((s) => s.finding.fingerprint)).toEqual(['RK10/legs/Walk']);
  });

  it('RK7: hops off a slope that is too steep to walk, each landing higher; and not one hop beside it', () => {
    const text = (guard: string): string =>
      movesetText({
        states: `      Walk: { stance: tall, motion: { drive: { to: axis(move) * 6 m/s, gain: 90 m/s2 } } }
      Hop: { stance: tall, motion: { drive: { to: axis(move) * 6 m/s, gain: 90 m/s2 } } }`,
        crossings: `      - { from: [Walk, Hop], to: Hop, when: pressed(hop) and (${guard}), do: ["vy := 9 m/s"], reenter: true, rank: 1 }
      - { from: Hop, to: Walk, when: grounded and falling }`,
        initial: 'Walk',
      });
    const bank = courseOf(
      '  - { box: [[-9 m, -1 m], [1 m, 0 m]] }\n  - { points: [[1 m, 0 m], [9 m, 0 m], [9 m, 13.85 m]] }',
    );
    const signs = (guard: string): string[] => {
      const machine = machineOf(text(guard));
      const inputs = Array.from({ length: 200 }, (_, t) => [1, Number(t % 14 === 13), 0]);
      const { records } = play(machine, buildWorld(bank, machine.stances), bank.spawns[0]!, inputs);
      expect(Math.max(...records.map((r) => r.body.y))).toBeGreaterThan(1);
      return signsIn(machine, records).flatMap(({ finding }) =>
        finding.code === 'RK7' ? [finding.fingerprint] : [],
      );
    };
    expect(signs('grounded or steep')).toEqual(['RK7/legs/Hop']);
    expect(signs('grounded')).toEqual([]);
  });

  it('RK9: a state that is left when a press comes down on the body', () => {
    const text = movesetText({
      states: '      Walk: { stance: tall }\n      Other: { stance: tall }',
      crossings:
        '      - { from: Walk, to: Other, when: crushed }\n      - { from: Other, to: Walk, when: pressed(dash) }',
      initial: 'Walk',
    });
    const machine = machineOf(text);
    const { course } = readCourse(
      `glenmark: 1\nkind: course\nname: Press\nsolids:\n${FLOOR}\nmovers: [{ box: [[-2 m, 2 m], [2 m, 3 m]], path: [[0 m, 0 m], [0 m, -1.9 m]], period: 2 s }]\nspawns: { start: { at: [0 m, 0 m] } }\n`,
    );
    const world = buildWorld(course!, machine.stances);
    const inputs = Array.from({ length: 120 }, () => [0, 0, 0]);
    const { records } = play(machine, world, course!.spawns[0]!, inputs);
    expect(signsIn(machine, records).map((s) => s.finding.fingerprint)).toEqual(['RK9/legs/Walk>Other']);
  });

  it('RK5: a tape that meets what it expects at one tick rate and not at another', () => {
    const courier = sample('courier.yaml');
    const { tape } = readTape(sample('yard-crossing.yaml'));
    const at = (rate: number) => readMoveset(courier, { rate }).machine;
    const found = rateFindings(machineOf(courier), at, [30, 120], [{ tape: tape!, course: yard }]);
    expect(found.map((f) => f.fingerprint)).toEqual(['RK5/Yard crossing/30']);
    expect(rateFindings(machineOf(courier), at, [60], [{ tape: tape!, course: yard }])).toEqual([]);
  });
});
