import { present } from '../../present.js';
import { type Control, leafFrom, type Machine, type State } from '../../machine/index.js';
import { controlsOf } from '../../scout/index.js';
import { type Finding, createFinding } from '../sentences/finding.js';

/**
 * AG3: controls that share a key or pad button and are both listened to at once: in one state, or in the first states
 * of two lanes. Each pair once; where the two states of two lanes are not the first ones, it is only suspected.
 */
export function sharedKeys(machine: Machine): Finding[] {
  const matter = controlsOf(machine);
  return machine.controls.flatMap((a, i) =>
    machine.controls.slice(i + 1).flatMap((b, k): Finding[] => {
      const key = keysOf(a).find((name) => keysOf(b).includes(name));
      if (key === undefined) return [];
      const listens = (control: number) => (s: State) =>
        s.members.length === 0 && present(matter[s.index]).includes(control);
      const [ofA, ofB] = [machine.states.filter(listens(i)), machine.states.filter(listens(i + 1 + k))];
      const both = ofA.find((s) => ofB.includes(s));
      const first = (s: State): boolean =>
        leafFrom(machine, present(machine.lanes[s.lane]).initial) === s.index;
      const apart = (list: readonly State[], other: State | undefined): State | undefined =>
        list.find((s) => first(s) && s.lane !== other?.lane) ?? list.find((s) => s.lane !== other?.lane);
      const one = both ?? apart(ofA, undefined);
      const other = both ?? apart(ofB, one);
      if (one === undefined || other === undefined) return [];
      const isSure = both !== undefined || (first(one) && first(other));
      return [
        createFinding({
          code: 'AG3',
          certainty: isSure ? 'proved' : 'suspected',
          lane: present(machine.lanes[other.lane]).name,
          state: other.name,
          crossing: null,
          path: b.path,
          witness: null,
          evidence: {
            key,
            controls: [a.name, b.name],
            states: both === undefined ? [one.name, other.name] : [both.name],
          },
        }),
      ];
    }),
  );
}

const keysOf = ({ keys, negative, positive, pad }: Control): string[] => [
  ...keys,
  ...negative,
  ...positive,
  ...pad.map((p) => `pad ${p}`),
];
