import courier from '../../../../../../examples/courier.yaml' with { loader: 'text' };
import kite from '../../../../../../examples/signal-kite.yaml' with { loader: 'text' };
import { exitsOf, type Machine, readMoveset, standAlone } from '@glenmark/core/machine';
import { edit, isUsable } from '@glenmark/core/model';
import fc from 'fast-check';
import {
  copiedCrossing,
  copiedCrossingText,
  copiedState,
  copiedStateText,
  pasteState,
} from './lane-clipboard';

const from = readMoveset(courier);
const alone = (machine: Machine): number[] =>
  machine.states.filter((s) => s.members.length === 0).map((s) => s.index);

describe('a state on the clipboard', () => {
  it('is a lane in YAML, and reads back', () => {
    for (const index of alone(from.machine!)) {
      const text = copiedStateText(from.machine!, from.file!, index)!;
      expect(text).toMatch(/^states:\n {2}\w+:/);
      expect(copiedState(text)).toEqual(standAlone(from.machine!, from.file!, index));
      expect(copiedCrossing(text)).toBeUndefined();
    }
  });

  it('comes into its own moveset again as it was, with what its group gave it, and its ways out', () => {
    for (const index of alone(from.machine!)) {
      const state = from.machine!.states[index]!;
      const copied = copiedState(copiedStateText(from.machine!, from.file!, index)!)!;
      const { name, changes, leftOut } = pasteState(from.machine!, from.file!, state.lane, copied);
      expect(leftOut).toEqual([]);
      const { machine, diagnostics } = readMoveset(edit(courier, changes));
      expect(isUsable(diagnostics), diagnostics.map((d) => d.message).join()).toBe(true);
      const copy = machine!.states.find((s) => s.name === name)!;
      for (const field of ['motion', 'stance', 'ability', 'tags', 'ifBlocked', 'home'] as const)
        expect(copy[field]).toEqual(state[field]);
      const ways = (m: Machine, at: number): string[] =>
        exitsOf(m, at).map(({ crossing }) => m.states[crossing.to]!.name.replace(name, state.name));
      expect(ways(machine!, copy.index)).toEqual(ways(from.machine!, index));
    }
  });

  it('a group is not one, for it is several', () => {
    const group = from.machine!.states.find((s) => s.members.length > 0)!;
    expect(copiedStateText(from.machine!, from.file!, group.index)).toBeUndefined();
  });

  it('names the ways that lead to nothing there', () => {
    const other = readMoveset(kite);
    const slide = from.machine!.states.find((s) => s.name === 'Slide')!;
    const copied = copiedState(copiedStateText(from.machine!, from.file!, slide.index)!)!;
    const { leftOut } = pasteState(other.machine!, other.file!, 0, copied);
    expect(leftOut).toEqual(copied.ways.map((w) => w.to).filter((to) => to !== 'Slide'));
    expect(leftOut.length).toBeGreaterThan(0);
  });
});

describe('a crossing on the clipboard', () => {
  const text = fc.oneof(
    fc.string(),
    fc.constantFrom('a: b', '# no', 'pressed(hop) within 0.1 s', 'yes', '- a'),
  );
  const crossing = fc.record(
    { from: text, to: text, when: text, rank: fc.integer(), do: fc.array(text, { minLength: 1 }) },
    { requiredKeys: ['from', 'to'] },
  );

  it('reads back, whatever it says', () => {
    fc.assert(
      fc.property(crossing, (c) => {
        expect(copiedCrossing(copiedCrossingText(c))).toEqual(c);
      }),
    );
  });

  it('a text that is something else is taken for neither', () => {
    const none = [
      '',
      'hop',
      'states:',
      'states: []',
      'states: { A: 1 }',
      'states: { A: {}, B: {} }',
      'states: { A: {} }\ncrossings: [{ from: B, to: A }]',
      'crossings: 3',
      'crossings: [1]',
      'crossings: [{ from: A }]',
      'crossings: [{ to: A }, { to: B }]',
      'crossings: [{ to: A }]\nname: more',
      'crossings: [',
    ];
    for (const other of none)
      expect([copiedState(other), copiedCrossing(other)]).toEqual([undefined, undefined]);
    fc.assert(
      fc.property(fc.string(), (s) => {
        expect([copiedState(s), copiedCrossing(s)]).toEqual([undefined, undefined]);
      }),
    );
  });
});
