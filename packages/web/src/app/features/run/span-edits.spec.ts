import { edit, fragmentText } from '@glenmark/core/model';
import { readTape, type Tape } from '@glenmark/core/run';
import fc from 'fast-check';
import { clearSpan, cutSpan, heldIn, heldOf, pasteAt, repeatSpan } from './span-edits';
import { valuesOf } from './tape-edits';

const TEXT = `glenmark: 1
kind: tape
name: Small
course: yard
spawn: gate
ticks: 40
inputs:
  hop: ["5 for 10", "30 for 1"]
  move: ["2 for 6", "20 for 4 at -0.5"]
marks: { leap: 5, land: 22 }
expect: [at 3 in Trot, between 6 and 21 airborne, at end in Trot, peak height >= 1 m]
`;
const tape = readTape(TEXT).tape!;
const after = (changes: Parameters<typeof edit>[1]): Tape => {
  const { tape: next, diagnostics } = readTape(edit(TEXT, changes));
  expect(diagnostics).toEqual([]);
  return next!;
};
const both = (t: Tape): number[][] => ['hop', 'move'].map((control) => valuesOf(t, control));
const arbitrarySpan = fc
  .tuple(fc.nat(39), fc.nat(39))
  .map(([a, b]) => ({ from: Math.min(a, b), to: Math.max(a, b) + 1 }));

describe('a span of a tape', () => {
  it('repeated comes twice, and moves the rest on', () => {
    fc.assert(
      fc.property(arbitrarySpan, ({ from, to }) => {
        const next = after(repeatSpan(tape, { from, to }));
        both(next).forEach((values, c) => {
          const old = both(tape)[c]!;
          expect(values).toEqual([...old.slice(0, to), ...old.slice(from, to), ...old.slice(to)]);
        });
      }),
    );
  });

  it('cut out is gone, and pasted where it was all is as before but what was about its ticks', () => {
    fc.assert(
      fc.property(arbitrarySpan, (span) => {
        const changes = cutSpan(tape, span);
        expect(changes === undefined).toBe(span.to - span.from === 40);
        if (changes === undefined) return;
        const held = heldOf(fragmentText(heldIn(tape, span)))!;
        const cut = after(changes);
        expect(cut.ticks).toBe(40 - (span.to - span.from));
        const text = edit(TEXT, changes);
        const back = readTape(edit(text, pasteAt(cut, span.from, held))).tape!;
        expect(both(back)).toEqual(both(tape));
        for (const mark of back.marks) expect(tape.marks).toContainEqual(mark);
        for (const line of back.expect) expect(tape.expect).toContain(line);
        const outside = (tick: number): boolean => tick < span.from || tick >= span.to;
        expect(back.marks).toEqual(tape.marks.filter((m) => outside(m.tick)));
        expect(back.expect.includes('at 3 in Trot')).toBe(outside(3));
        expect(back.expect.includes('between 6 and 21 airborne')).toBe(outside(6) && outside(21));
        expect(back.expect).toContain('at end in Trot');
      }),
    );
  });

  it('let go holds nothing, and everything else stays', () => {
    fc.assert(
      fc.property(arbitrarySpan, ({ from, to }) => {
        const next = after(clearSpan(tape, { from, to }));
        both(next).forEach((values, c) =>
          expect(values).toEqual(both(tape)[c]!.map((v, t) => (t >= from && t < to ? 0 : v))),
        );
        expect(next.marks).toEqual(tape.marks);
      }),
    );
  });

  it('a text that is something else is not taken for one', () => {
    for (const text of [
      '',
      'null',
      '[]',
      'ticks: 3',
      'ticks: 0\ninputs: {}',
      'ticks: 3\ninputs: { hop: [x] }',
      'ticks: 3\ninputs: { hop: 0 for 1 }',
      'inputs: {',
    ])
      expect(heldOf(text)).toBeUndefined();
  });
});
