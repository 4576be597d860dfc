import { describe, expect, it } from 'vitest';
import { readMoveset } from '@glenmark/core/machine';
import { printSpan, parseSpan, readTape, runTape, type Session, tapeInputs, why } from '@glenmark/core/run';
import { readCourse } from '@glenmark/core/world';
import { courseOf, machineOf, playInputs, sample } from './helpers.js';

const course = readCourse(sample('mill-yard.yaml')).course!;

function run(rate?: number, edit: (tape: string) => string = (t) => t): Session {
  const { machine } = readMoveset(sample('courier.yaml'), { rate });
  const { session, diagnostics } = runTape(
    machine!,
    course,
    readTape(edit(sample('culvert-slide.yaml'))).tape!,
  );
  expect(diagnostics).toEqual([]);
  return session!;
}

describe('why', () => {
  const session = run();
  const account = why(session.trace, session.world, 62);

  it('says that the slide could not end under the culvert, and what was missing', () => {
    const refused = account.lanes[0]!.crossings.find((c) => c.to === 'Trot')!;
    expect(refused).toMatchObject({
      verdict: 'noRoom',
      remark: 'Open, but upright does not fit: 70 cm short.',
    });
    expect(refused.missing).toBeCloseTo(0.7, 6);
  });

  it('dates the terms: the timer ran out 42 ticks after the slide began', () => {
    const guard = account.lanes[0]!.crossings.find((c) => c.to === 'Trot')!.guard!;
    const began = session.trace.records.find((r) => r.taken.length > 0)!.tick;
    const done = guard.parts.find((t) => t.text === 'done(slideTime)')!;
    expect(done).toMatchObject({ value: 1, since: began + 42 });
    expect(guard.parts.find((t) => t.text === 'not held(tuck)')).toMatchObject({ value: 0, parts: [] });
  });

  it('tells the same story as the run, at every tick', () => {
    for (const record of session.trace.records) {
      const { lanes } = why(session.trace, session.world, record.tick);
      const taken = lanes[0]!.crossings.find((c) => c.verdict === 'taken');
      expect(taken?.index).toBe(record.taken[0]?.crossing.index);
      expect(taken !== undefined).toBe(lanes[0]!.before !== lanes[0]!.after);
    }
  });
});

describe('tapes', () => {
  it('a span prints as it was read', () => {
    for (const text of ['20 for 11', '0 for 3 at -1', '6 for 144 at 0.5'])
      expect(printSpan(parseSpan(text) as never)).toBe(text);
  });

  it('keeps its length in seconds, and every press, at another rate', () => {
    const { tape } = readTape(
      'glenmark: 1\nkind: tape\nname: T\ncourse: c\nspawn: s\nticks: 60\ninputs: { hop: [7 for 1, 20 for 1], move: [0 for 30 at -1] }',
    );
    for (const rate of [30, 50, 60, 120, 144]) {
      const machine = machineOf(sample('courier.yaml'), rate);
      const inputs = tapeInputs(tape!, machine);
      expect(inputs).toHaveLength(rate);
      const hop = machine.controls.findIndex((c) => c.name === 'hop');
      const presses = inputs.filter((row, i) => row[hop] === 1 && inputs[i - 1]?.[hop] !== 1).length;
      expect(presses, `at ${rate}`).toBe(2);
    }
  });

  it.each([30, 50, 120, 144])(
    'the culvert slide ends beyond the culvert at %i ticks a second too',
    (rate) => {
      const { trace, expectations } = run(rate);
      expect(trace.machine.rate).toBe(rate);
      expect(expectations.filter((e) => !e.passed)).toEqual([]);
    },
  );

  it.each([
    [
      'a spawn that is gone',
      (t: string) => t.replace('spawn: culvert', 'spawn: culvart'),
      /no spawn 'culvart', did you mean 'culvert'/,
    ],
    [
      'a control that is gone',
      (t: string) => t.replace('tuck:', 'tack:'),
      /no control 'tack', did you mean 'tuck'/,
    ],
    [
      'an expectation with a wrong name',
      (t: string) => t.replace('never in Gust', 'never in Gast'),
      /no state is called 'Gast'/,
    ],
    [
      'an expectation beyond its end',
      (t: string) => t.replace('at 40', 'at 4000'),
      /within the tape's 180 ticks/,
    ],
    [
      'an expectation without a beginning',
      (t: string) => t.replace('never in Gust', 'in Gust'),
      /expected it to begin with/,
    ],
  ])('%s is told at its line', (_, edit, message) => {
    const { machine } = readMoveset(sample('courier.yaml'));
    const { session, diagnostics } = runTape(
      machine!,
      course,
      readTape(edit(sample('culvert-slide.yaml'))).tape!,
    );
    expect(session).toBeUndefined();
    expect(diagnostics[0]!.message).toMatch(message);
    expect(diagnostics[0]!.line).toBeGreaterThan(3);
  });

  it('an expectation that fails says where and what was seen', () => {
    const { expectations } = run(undefined, (t) =>
      t.replace('at 40 in Slide', 'at 40 in Trot').replace('never in Gust', 'peak height >= 3 m'),
    );
    expect(expectations[1]).toMatchObject({ passed: false, tick: 40 });
    expect(expectations[5]).toMatchObject({ passed: false, seen: expect.stringMatching(/ m$/) as string });
  });

  it('stops with a reason when the body leaves the course', () => {
    const machine = machineOf(sample('courier.yaml'));
    const trace = playInputs(machine, courseOf('  - { box: [[50 m, 0 m], [51 m, 1 m]] }'), 2000, () => ({}));
    expect(trace.stopped).toMatch(/left the course at tick \d+/);
    expect(trace.records.length).toBeLessThan(2000);
  });
});
