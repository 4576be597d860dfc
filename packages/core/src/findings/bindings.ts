import { chainOf, type Control, exitsOf, type Machine } from '../machine/index.js';
import { controlsOf } from '../scout/index.js';
import type { Finding } from './catalogue.js';

/** AG3: controls that share a key or pad button and are both listened to in one state; each pair once. */
export function sharedKeys(machine: Machine): Finding[] {
  const matter = controlsOf(machine);
  return machine.controls.flatMap((a, i) =>
    machine.controls.slice(i + 1).flatMap((b, k): Finding[] => {
      const key = keysOf(a).find((name) => keysOf(b).includes(name));
      if (key === undefined) return [];
      const j = i + 1 + k;
      const state = machine.states.find(
        (s) => s.members.length === 0 && matter[s.index]!.includes(i) && matter[s.index]!.includes(j),
      );
      if (state === undefined) return [];
      const lane = machine.lanes[state.lane]!;
      const asked = exitsOf(machine, state.index).length;
      return [
        {
          code: 'AG3',
          certainty: 'proved',
          lane: lane.name,
          state: state.name,
          crossing: null,
          sentence: `${key} drives both ${a.name} and ${b.name}, and ${state.name} listens to both: one cannot be pressed without the other.`,
          reason: [
            `${a.name} and ${b.name} are bound to ${key}; ${state.name} has ${asked} ways out and ${chainOf(machine, state.index).length > 1 ? 'groups around it ' : 'a motion '}that read them.`,
          ],
          witness: null,
          path: b.path,
          fingerprint: `AG3/${a.name}+${b.name}/${key}`,
        },
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
