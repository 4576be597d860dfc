import { describe, expect, it } from 'vitest';
import { exitsOf, type Machine, readMoveset, standAlone } from '@glenmark/core/machine';
import { edit } from '@glenmark/core/model';
import { print } from '@glenmark/core/notation';
import { machineOf, movesetText, sample } from './helpers.js';

const MOVESETS = ['courier.yaml', 'courier-draft.yaml', 'marram.yaml', 'lock-keeper.yaml'];

/** What a state does as soon as it is in it, with nothing said of where it stands. */
const seen = (machine: Machine, index: number) => {
  const { motion, stance, ability, ifBlocked, tags } = machine.states[index]!;
  return { motion, stance, ability, ifBlocked, tags };
};

/** Ways out in the order in which they are considered, but those from everywhere. */
const ways = (machine: Machine, index: number) =>
  exitsOf(machine, index)
    .filter(({ crossing }) => crossing.from.length > 0)
    .map(({ crossing: c }) => ({
      to: machine.states[c.to]!.name,
      when: c.when && print(c.when.syntax),
      do: c.do.map((effect) => effect.text),
      ability: c.ability,
    }));

describe.each(MOVESETS)('every state of %s, put at the top of its lane as it stands alone', (file) => {
  const text = sample(file);
  const { machine, file: shape } = readMoveset(text);

  it('moves, is shaped, and is left as where it was', () => {
    for (const state of machine!.states) {
      const alone = standAlone(machine!, shape!, state.index);
      expect(alone === undefined).toBe(state.members.length > 0);
      if (alone === undefined) continue;
      const lane = machine!.lanes[state.lane]!;
      const list = shape!.lanes[state.lane]!.crossings ?? [];
      const after = machineOf(
        edit(text, [
          { path: [...lane.path, 'states', 'Copy'], value: alone.is },
          ...alone.ways.map((way, i) => ({
            path: [...lane.path, 'crossings', list.length + i],
            value: { from: 'Copy', ...way },
            insert: true,
          })),
        ]),
      );
      const copy = after.states.find((s) => s.name === 'Copy')!;
      // Facts are numbered anew when some are added: what is compared is written out.
      const told = (of: unknown) => JSON.stringify(of).replaceAll(`elapsed@Copy`, `elapsed@${state.name}`);
      const same = after.states.find((s) => s.name === state.name)!;
      expect(told(seen(after, copy.index))).toBe(told(seen(after, same.index)));
      expect(ways(after, copy.index)).toEqual(ways(after, same.index));
    }
  });
});

describe('a state in groups', () => {
  const text = movesetText({
    initial: 'Base',
    states: `
      Base: { stance: tall }
      Outer:
        initial: Inner
        stance: tall
        enter: [vy := 1 m/s]
        exit: [vy := 2 m/s]
        motion: { gravity: 2, drag: 1 1/s }
        states:
          Inner:
            initial: Leaf
            home: true
            each: [vx := 1 m/s]
            motion: { gravity: 3 }
            states:
              Leaf: { enter: [vy := 3 m/s], exit: [vy := 4 m/s], each: [vx := 2 m/s], final: true }
    `,
    crossings: `
      - { from: Outer, to: Base, when: grounded, rank: 5 }
      - { from: Leaf, to: Base, when: falling }
      - { from: Inner, to: Base, when: held(hop), rank: 2 }
      - { from: "*", to: Base, when: pressed(dash) }
    `,
  });
  const { machine, file } = readMoveset(text);
  const leaf = standAlone(machine!, file!, machine!.states.find((s) => s.name === 'Leaf')!.index)!;

  it('has the fields of the nearest group that says them, motion field by field', () => {
    expect(leaf.is).toEqual({
      stance: 'tall',
      final: true,
      motion: { gravity: 3, drag: '1 1/s' },
      enter: ['vy := 1 m/s', 'vy := 3 m/s'],
      each: ['vx := 1 m/s', 'vx := 2 m/s'],
      exit: ['vy := 4 m/s', 'vy := 2 m/s'],
    });
  });

  it('is left in the same order, with ranks that say so now', () => {
    expect(leaf.ways.map((w) => [w.when, w.rank ?? 0])).toEqual([
      ['falling', 7],
      ['held(hop)', 6],
      ['grounded', 5],
    ]);
  });
});
