import courier from '../../../../../examples/courier.yaml' with { loader: 'text' };
import kite from '../../../../../examples/signal-kite.yaml' with { loader: 'text' };
import { edit, isUsable, readMoveset } from '@glenmark/core';
import { copiedState, copiedStateText, pasteState } from './state-clipboard';

describe('a state on the clipboard', () => {
  const from = readMoveset(courier);

  it('every state of the courier comes into its own moveset again, with its ways out', () => {
    for (const state of from.machine!.states) {
      const text = copiedStateText(from.machine!, from.file!, state.index);
      if (state.members.length > 0) {
        expect(text).toBeUndefined();
        continue;
      }
      const { name, changes, leftOut } = pasteState(
        from.machine!,
        from.file!,
        state.lane,
        copiedState(text!)!,
      );
      expect(leftOut).toEqual([]);
      const { machine, diagnostics } = readMoveset(edit(courier, changes));
      expect(isUsable(diagnostics), diagnostics.map((d) => d.message).join()).toBe(true);
      const copy = machine!.states.find((s) => s.name === name)!;
      // One out of a group stands alone where it is put, without what the group gave it.
      if (state.parent < 0) expect(copy.motion).toEqual(state.motion);
      const ways = (m: typeof machine, index: number): number =>
        m!.lanes[state.lane]!.crossings.filter((c) => c.from.includes(index)).length;
      expect(ways(machine, copy.index)).toBe(ways(from.machine, state.index));
    }
  });

  it('names the ways that lead to nothing there', () => {
    const other = readMoveset(kite);
    const slide = from.machine!.states.find((s) => s.name === 'Slide')!;
    const copied = copiedState(copiedStateText(from.machine!, from.file!, slide.index)!)!;
    const { leftOut } = pasteState(other.machine!, other.file!, 0, copied);
    expect(leftOut).toEqual(copied.ways.map((w) => w.to).filter((to) => to !== 'Slide'));
    expect(leftOut.length).toBeGreaterThan(0);
  });

  it('a text that is something else is not taken for one', () => {
    for (const text of ['', '{}', '{"state":"A"}', '{"state":"A","is":{},"ways":[1]}', '[]', 'null'])
      expect(copiedState(text)).toBeUndefined();
  });
});
