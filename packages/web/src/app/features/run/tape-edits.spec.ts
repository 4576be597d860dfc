import { readMoveset } from '@glenmark/core/machine';
import { edit } from '@glenmark/core/model';
import { readTape, runTape, type Span, type Tape } from '@glenmark/core/run';
import { readCourse } from '@glenmark/core/world';
import courier from '../../../../../../examples/courier.yaml' with { loader: 'text' };
import yard from '../../../../../../examples/mill-yard.yaml' with { loader: 'text' };
import crossing from '../../../../../../examples/yard-crossing.yaml' with { loader: 'text' };
import { drawnValue, expecting, notExpecting, putBar, regriddedText, valuesOf } from './tape-edits';

const TEXT = `glenmark: 1
kind: tape
name: Small
course: yard
spawn: gate
ticks: 40
inputs:
  hop: ["5 for 10"]
  move: ["2 for 6", "20 for 4 at -1"]
expect: [at end in Trot]
`;
const read = (text: string): Tape => readTape(text).tape!;
const put = (text: string, control: string, old?: Span, next?: Span): string =>
  edit(text, putBar(read(text), control, old, next));

describe('bars of a tape', () => {
  it('whatever is put, each tick holds the last bar put over it', () => {
    let text = TEXT;
    const values = valuesOf(read(text), 'move');
    // A fixed sequence that overlaps in every way.
    for (let i = 0; i < 40; i++) {
      const from = (i * 13) % 35;
      const length = 1 + ((i * 7) % 12);
      const value = i % 3 === 0 ? -1 : 1;
      text = put(text, 'move', undefined, { from, length, value });
      while (values.length < from + length) values.push(0);
      values.fill(value, from, from + length);
      expect(valuesOf(read(text), 'move')).toEqual(values);
    }
  });

  it('one moved away leaves rest behind, and comes back', () => {
    const bar = { from: 5, length: 10, value: 1 };
    const away = put(TEXT, 'hop', bar, { ...bar, from: 20 });
    expect(valuesOf(read(away), 'hop').slice(0, 20)).toEqual(new Array(20).fill(0));
    const back = put(away, 'hop', { ...bar, from: 20 }, bar);
    expect(valuesOf(read(back), 'hop')).toEqual(valuesOf(read(TEXT), 'hop'));
  });

  it('the last one removed takes the control away, the last control the inputs', () => {
    const without = put(put(TEXT, 'hop', { from: 5, length: 10, value: 1 }), 'move', {
      from: 2,
      length: 6,
      value: 1,
    });
    const none = put(without, 'move', { from: 20, length: 4, value: -1 });
    expect(read(without).inputs.map((i) => i.control)).toEqual(['move']);
    expect(none).not.toContain('inputs');
    expect(read(put(none, 'hop', undefined, { from: 1, length: 2, value: 1 })).inputs).toHaveLength(1);
  });

  it('beyond the end the tape becomes longer', () => {
    expect(read(put(TEXT, 'hop', undefined, { from: 38, length: 10, value: 1 })).ticks).toBe(48);
  });

  it('an axis goes by the half of the row that is drawn on', () => {
    expect([drawnValue('axis', true), drawnValue('axis', false), drawnValue('button', false)]).toEqual([
      1, -1, 1,
    ]);
  });

  it('expectations come and go', () => {
    const more = edit(TEXT, expecting(read(TEXT), 'sometime in Rise'));
    expect(read(more).expect).toEqual(['at end in Trot', 'sometime in Rise']);
    const none = edit(edit(more, notExpecting(read(more), 0)), notExpecting(read(TEXT), 0));
    expect(read(none).expect).toEqual([]);
    expect(read(edit(none, expecting(read(none), 'always grounded'))).expect).toEqual(['always grounded']);
  });
});

describe('a tape made on another grid', () => {
  it('laid on the ticks of the moveset plays bit for bit as it did, and expects the same', () => {
    const machine = readMoveset(courier).machine!;
    const course = readCourse(yard).course!;
    for (const rate of [30, 50, 120]) {
      const text = crossing.replace(/^ticks:/m, `tickRate: ${rate}\nticks:`).replace(/^marks:.*$/m, '');
      const tape = read(text);
      const laid = read(regriddedText(tape, machine, 'courier'));
      expect(laid.rate).toBeUndefined();
      const [before, after] = [tape, laid].map((t) => runTape(machine, course, t).session!);
      expect(after!.digest).toBe(before!.digest);
      expect(after!.expectations.map((e) => e.passed)).toEqual(before!.expectations.map((e) => e.passed));
    }
  });
});
