import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  CALLED,
  lower,
  type Machine,
  printJavaScript,
  type Program,
  readMoveset,
  type Statement,
} from '@glenmark/core/machine';
import { readTape, startOf, tapeInputs } from '@glenmark/core/run';
import { type Course, readCourse } from '@glenmark/core/world';
import { machineOf, sample } from './helpers.js';
import { randomCase } from './random-moveset.js';
import { firstDifference } from './together.js';

const millRun = readCourse(sample('tide-mill.yaml')).course!;

/** What plays a tape of the demo: its machine, its course, where it begins, its inputs. */
function played(file: string): [Machine, Course, { x: number; y: number; facing: 1 | -1 }, number[][]] {
  const machine = machineOf(sample('marram.yaml'));
  const tape = readTape(sample(file)).tape!;
  return [machine, millRun, startOf(tape, millRun)!, tapeInputs(tape, machine)];
}

/** All statements of a program, those inside others too. */
function statementsOf({ steps, procedures }: Program): Statement[] {
  const within = (list: readonly Statement[]): Statement[] =>
    list.flatMap((s): Statement[] => {
      switch (s.kind) {
        case 'block':
        case 'repeat':
          return [s, ...within(s.body)];
        case 'if':
          return [s, ...within(s.then), ...within(s.otherwise)];
        case 'switch':
          return [s, ...s.cases.flatMap(({ body }) => within(body)), ...within(s.otherwise)];
        default:
          return [s];
      }
    });
  return [...steps, ...procedures].flatMap(({ statements }) => within(statements));
}

describe('a lowered machine', () => {
  it.each(['sense', 'clocks', 'decide', 'act', 'motion', 'keep'])(
    'without its step `%s` plays other runs: it is the program that the fast machine runs',
    (name) => {
      const without = (program: Program): Program => ({
        ...program,
        steps: program.steps.filter((step) => step.name !== name),
      });
      const differs = ['shaft-climb.yaml', 'winch-swing.yaml'].map((file) =>
        firstDifference(...played(file), false, without),
      );
      expect(differs.filter((d) => d !== undefined)).not.toEqual([]);
    },
  );

  it('mostly plays another run of some tape when it is one statement short', () => {
    const tapes = ['shaft-climb.yaml', 'winch-swing.yaml', 'draught-ride.yaml', 'ferry-crossing.yaml'].map(
      played,
    );
    const isField = (s: Statement): boolean => s.kind === 'set' && s.to.kind === 'field';
    const places = statementsOf(lower(tapes[0]![0])).flatMap((s, i) => (isField(s) ? [i] : []));
    // Every twelfth will do: each costs a lowering and up to four runs.
    const tried = places.filter((_, i) => i % 12 === 0);
    const noticed = tried.filter((i) => {
      const short = (program: Program): Program => ({
        ...program,
        ...without(program, statementsOf(program)[i]!),
      });
      return tapes.some((tape) => firstDifference(...tape, false, short) !== undefined);
    });
    // The rest is about what these tapes never come to.
    expect(noticed.length).toBeGreaterThan(tried.length / 4);
  }, 120_000);

  it('is plain data: a copy of it prints the same', () => {
    fc.assert(
      fc.property(randomCase, fc.boolean(), ({ moveset }, writes) => {
        const program = lower(readMoveset(moveset).machine!);
        expect(printJavaScript(structuredClone(program), { writes })).toBe(
          printJavaScript(program, { writes }),
        );
      }),
      { numRuns: 30, endOnFailure: true },
    );
  });

  it('calls nothing but its own procedures, Math, and what a world offers', () => {
    fc.assert(
      fc.property(randomCase, ({ moveset }) => {
        const program = lower(readMoveset(moveset).machine!);
        const source = printJavaScript(program, { writes: true }).replace(/\/\/.*/g, '');
        const called = [...source.matchAll(/(?<![.\w])([a-z]\w*)\(/g)].map((m) => m[1]!);
        const known = new Set<string>([...CALLED, 'if', 'for', 'switch']);
        expect(called.filter((name) => !known.has(name) && !name.startsWith('do_'))).toEqual([]);
        const read = [...source.matchAll(/\bf\[(\d+)\]/g)].map((m) => Number(m[1]));
        expect(Math.max(-1, ...read)).toBeLessThan(program.facts.length + program.registers.length);
      }),
      { numRuns: 30, endOnFailure: true },
    );
  });
});

/** A program without one of its statements. */
function without({ steps, procedures }: Program, left: Statement): Pick<Program, 'steps' | 'procedures'> {
  const kept = (list: readonly Statement[]): Statement[] =>
    list
      .filter((s) => s !== left)
      .map((s): Statement => {
        switch (s.kind) {
          case 'block':
          case 'repeat':
            return { ...s, body: kept(s.body) };
          case 'if':
            return { ...s, then: kept(s.then), otherwise: kept(s.otherwise) };
          case 'switch': {
            const cases = s.cases.map(({ of, body }) => ({ of, body: kept(body) }));
            return { ...s, cases, otherwise: kept(s.otherwise) };
          }
          default:
            return s;
        }
      });
  return {
    steps: steps.map((step) => ({ ...step, statements: kept(step.statements) })),
    procedures: procedures.map((p) => ({ ...p, statements: kept(p.statements) })),
  };
}
