import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  inputsCsv,
  play,
  playOn,
  readInputsCsv,
  readTape,
  runTape,
  tapeInputs,
  traceCsv,
} from '@glenmark/core/run';
import { buildWorld, readCourse } from '@glenmark/core/world';
import { courseOf, machineOf, sample } from './helpers.js';

const marram = machineOf(sample('marram.yaml'));
const mill = readCourse(sample('tide-mill.yaml')).course!;
const spawn = mill.spawns[0]!;
const worldOf = () => buildWorld(mill, marram.stances, marram.casts);
/** Stretches of held controls, so that runs go somewhere. */
const arbitraryInputs = fc
  .array(
    fc.record({
      ticks: fc.integer({ min: 1, max: 50 }),
      values: fc.tuple(
        ...marram.controls.map((c) => fc.constantFrom(0, 1, ...(c.kind === 'button' ? [] : [-1]))),
      ),
    }),
    { minLength: 1, maxLength: 8 },
  )
  .map((parts) => parts.flatMap(({ ticks, values }) => Array.from({ length: ticks }, () => [...values])));

describe('a kept run', () => {
  it('goes on, after any chain of edits, to the run that the whole tape gives, and says what stayed', () => {
    fc.assert(
      fc.property(
        fc.array(arbitraryInputs, { minLength: 2, maxLength: 4 }),
        fc.nat(),
        fc.boolean(),
        (lists, cut, sees) => {
          const world = worldOf();
          let kept = playOn(marram, world, spawn, lists[0]!, { sees });
          for (const list of lists) {
            // The beginning of what was there, then something else; and at last the same again.
            const inputs = [...kept.inputs.slice(0, cut % (kept.inputs.length + 1)), ...list];
            const next = playOn(marram, world, spawn, inputs, { sees, kept });
            expect(next.trace).toEqual(play(marram, worldOf(), spawn, inputs));
            expect(next.trace.records.slice(0, next.same)).toEqual(kept.trace.records.slice(0, next.same));
            expect(next.same).toBeGreaterThanOrEqual(
              Math.min(cut % (kept.inputs.length + 1), next.trace.records.length) - 60,
            );
            if (sees) expect(next.seen).toEqual(playOn(marram, worldOf(), spawn, inputs, { sees }).seen);
            const again = playOn(marram, world, spawn, inputs, { sees, kept: next });
            expect(again.same).toBe(next.trace.records.length);
            expect(again.trace).toEqual(next.trace);
            kept = again;
          }
        },
      ),
      { numRuns: 12 },
    );
  });

  it('counts only where machine, course and spawn are the same, and expectations are asked of all of it', () => {
    const tape = (more: string) =>
      readTape(`${sample('shaft-climb.yaml').replace(/expect:[\s\S]*/, '')}${more}`).tape!;
    const first = runTape(marram, mill, tape(''));
    const asked = runTape(marram, mill, tape('expect: ["at 0 in Trot", "peak height >= 1 m"]'), first.kept);
    const fresh = runTape(marram, mill, tape('expect: ["at 0 in Trot", "peak height >= 1 m"]'));
    expect(asked.session!.expectations).toEqual(fresh.session!.expectations);
    expect(asked.session!.digest).toBe(first.session!.digest);
    // The facts after each tick were not kept before anything was expected.
    expect(asked.kept!.same).toBe(0);
    expect(runTape(marram, mill, tape('expect: ["at 0 in Trot"]'), asked.kept).kept!.same).toBeGreaterThan(0);
    const elsewhere = readCourse(sample('tide-mill.yaml')).course!;
    expect(runTape(marram, elsewhere, tape(''), first.kept).kept!.same).toBe(0);
  });

  it('a run that left its course ends again where it ended', () => {
    const pit = courseOf('  - { box: [[-1 m, -1 m], [1 m, 0 m]] }');
    const world = buildWorld(pit, marram.stances, marram.casts);
    const right = Array.from({ length: 600 }, () => marram.controls.map((c) => (c.kind === 'axis' ? 1 : 0)));
    const one = playOn(marram, world, pit.spawns[0]!, right);
    expect(one.trace.stopped).toMatch(/left the course/);
    const longer = playOn(marram, world, pit.spawns[0]!, [...right, ...right], { kept: one });
    expect(longer.same).toBe(one.trace.records.length);
    expect(longer.trace).toEqual(one.trace);
  });
});

describe('inputs as CSV', () => {
  it('come back as they were, in any order of columns', () => {
    fc.assert(
      fc.property(arbitraryInputs, fc.nat(), (inputs, turn) => {
        const text = inputsCsv(marram, inputs);
        expect(readInputsCsv(marram, text)).toEqual({ inputs, diagnostics: [] });
        const turned = text
          .trimEnd()
          .split('\r\n')
          .map((line) => {
            const cells = line.split(',');
            const by = turn % cells.length;
            return [...cells.slice(by), ...cells.slice(0, by)].map((c) => `"${c}"`).join(',');
          })
          .join('\n');
        expect(readInputsCsv(marram, turned).inputs).toEqual(inputs);
      }),
    );
  });

  it.each([
    ['tick,hopp\n0,1', '1:2', "no control 'hopp', did you mean 'hop'?"],
    ['hop,hop\n0,1', '1:2', "found 'hop' twice"],
    ['hop', '2:1', 'found no line after the header'],
    ['tick,hop\n0,1\n2,1', '3:1', 'found tick 2, expected 1'],
    ['tick,hop\n0,down', '2:2', "found 'down', expected a number"],
    ['tick,hop\n0,0.5', '2:2', "found 0.5 for 'hop', expected 0 or 1"],
    ['move\n-3', '2:1', "found -3 for 'move', expected -1 to 1"],
    ['hop,move\n1', '2:2', 'found 1 fields, expected 2'],
    ['hop\n"1', '2:1', 'found a quote that is not closed'],
  ])('%j is told at %s', (text, place, message) => {
    const { inputs, diagnostics } = readInputsCsv(marram, text);
    expect(inputs).toBeUndefined();
    const told = diagnostics.map((d) => `${d.line}:${d.column} ${d.message}`);
    expect(
      told.some((line) => line.startsWith(place) && line.includes(message)),
      told.join('\n'),
    ).toBe(true);
  });

  it('a run is one line a tick, with the states by name', () => {
    const { tape } = readTape(sample('shaft-climb.yaml'));
    const { trace } = runTape(marram, mill, tape!).session!;
    const [header, ...lines] = traceCsv(trace)
      .trimEnd()
      .split('\r\n')
      .map((line) => line.split(','));
    expect(lines).toHaveLength(trace.records.length);
    expect(new Set(lines.map((line) => line.length))).toEqual(new Set([header!.length]));
    lines.forEach((line, tick) => {
      expect(line[header!.indexOf('legs')]).toBe(marram.states[trace.records[tick]!.leaves[0]!]!.name);
      expect(Number(line[header!.indexOf('x')])).toBe(trace.records[tick]!.body.x);
    });
    expect(tapeInputs(tape!, marram).map((i) => i.join())).toEqual(
      lines.map((line) => line.slice(2, 2 + marram.controls.length).join()),
    );
  });
});
