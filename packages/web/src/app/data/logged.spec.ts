import { inputsCsv, readTape, tapeInputs, traceCsv } from '@glenmark/core/run';
import courier from '../../../../../examples/courier.yaml' with { loader: 'text' };
import slide from '../../../../../examples/culvert-slide.yaml' with { loader: 'text' };
import yard from '../../../../../examples/mill-yard.yaml' with { loader: 'text' };
import { sessionOf } from './compared';
import { exported } from './exported';
import { logged } from './logged';

const asked = (text: string, tape = slide) =>
  logged({ moveset: courier, movesetId: 'courier', course: yard, tape, log: { name: 'play.csv', text } });

const { session } = sessionOf({ moveset: courier, course: yard, tape: slide });
const { trace } = session!;
const own = traceCsv(trace);

describe('a log of the game', () => {
  it('that is the model’s own run agrees with it, tick by tick', () => {
    const compared = asked(own);
    expect(compared).toMatchObject({ wrong: [], first: undefined, reasons: [], isShown: true, resting: [] });
    expect(compared.ticks).toBe(trace.records.length);
    expect(compared.session!.trace.records.map((r) => r.body.x)).toEqual(trace.records.map((r) => r.body.x));
  });

  it('draws what the game says in the place of what the model has', () => {
    const rows = own
      .trim()
      .split('\r\n')
      .map((row) => row.split(','));
    const x = rows[0]!.indexOf('x');
    rows[41]![x] = '3';
    const { first, session: drawn } = asked(rows.map((row) => row.join(',')).join('\n'));
    expect(first).toEqual({ tick: 40, columns: ['x'] });
    expect(drawn!.trace.records[40]!.body.x).toBe(3);
    expect(drawn!.trace.records[41]!.body.x).toBe(trace.records[41]!.body.x);
  });

  it('with other inputs than the shown tape lends a tape that has them', () => {
    const inputs = trace.records.map((r) => [...r.input]);
    inputs[3]![1] = 1;
    const text = inputsCsv(trace.machine, inputs)
      .replace('tick,', 'tick,x,')
      .replaceAll(/\n(\d+),/g, '\n$1,,');
    const { isShown, tapeText } = asked(text);
    expect(isShown).toBe(false);
    const { tape } = readTape(tapeText);
    expect(tapeInputs(tape!, trace.machine)).toEqual(inputs);
    expect(tape!.start).toEqual(readTape(slide).tape!.start);
    // That tape is then the one to be drawn over.
    expect(asked(text, tapeText).isShown).toBe(true);
  });

  it('that cannot be read says where', () => {
    expect(asked('tick,x\n0,far')).toMatchObject({
      wrong: ["play.csv:2:2: found 'far', expected a number"],
    });
  });
});

describe('a moveset taken out', () => {
  it.each([
    ['cpp', 'courier.hpp'],
    ['csharp', 'Courier.cs'],
    ['lua', 'courier.lua'],
    ['typescript', 'courier.ts'],
    ['scxml', 'courier.scxml'],
    ['dot', 'courier.dot'],
    ['csv', 'courier.csv'],
  ] as const)('as %s is the file %s, with every state in it', (form, name) => {
    const { file, notes } = exported(courier, form)!;
    expect(file.name).toBe(name);
    for (const state of ['Trot', 'Rise', 'Fall', 'Slide', 'Gust', 'Folded', 'Open'])
      expect(file.text).toContain(state);
    expect(notes?.name).toBe(['scxml', 'dot', 'csv'].includes(form) ? undefined : `${name}.md`);
  });

  it('is nothing while it does not load', () => {
    expect(exported('glenmark: 1', 'cpp')).toBeUndefined();
  });
});
