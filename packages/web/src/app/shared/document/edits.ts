import type { Crossing, Machine } from '@glenmark/core/machine';
import { type Change, type MovesetFile, stateAt } from '@glenmark/core/model';

/** What a person does to a moveset, as changes of its document. Pure functions of what is there now. */

export function addCrossing(
  machine: Machine,
  file: MovesetFile,
  lane: number,
  { from, to, when }: { from: string; to: string; when: string },
): Change[] {
  const crossing = { from, to, ...(when === '' ? {} : { when }) };
  const path = [...machine.lanes[lane]!.path, 'crossings'];
  const existing = file.lanes[lane]!.crossings;
  return existing === undefined
    ? [{ path, value: [crossing] }]
    : [{ path: [...path, existing.length], value: crossing, insert: true }];
}

export const removeCrossing = (crossing: Crossing): Change[] => [{ path: crossing.path }];

/** Sets or, with empty text, removes a guard. */
export const setGuard = (crossing: Crossing, when: string): Change[] => [
  { path: [...crossing.path, 'when'], value: when === '' ? undefined : plain(when) },
];

export const setRank = (crossing: Crossing, rank: number): Change[] => [
  { path: [...crossing.path, 'rank'], value: rank === 0 ? undefined : rank },
];

/** Effects as people write them on one line, separated by semicolons. */
export const setEffects = (path: Change['path'], line: string): Change[] => {
  const effects = line
    .split(';')
    .map((e) => e.trim())
    .filter((e) => e !== '');
  return [{ path, value: effects.length === 0 ? undefined : effects }];
};

export const effectLine = (effects: readonly { text: string }[]): string =>
  effects.map((e) => e.text).join('; ');

export function addState(machine: Machine, lane: number, name: string): Change[] {
  const stance = machine.stances[0]?.name;
  return [
    { path: [...machine.lanes[lane]!.path, 'states', name], value: stance === undefined ? {} : { stance } },
  ];
}

/** A state once more under another name, with its ways out; nothing leads to it yet. */
export function duplicateState(machine: Machine, file: MovesetFile, index: number, name: string): Change[] {
  const state = machine.states[index]!;
  const own = stateAt(file, state.path);
  const list = file.lanes[state.lane]!.crossings ?? [];
  const ways = list.filter((c) => c.from === state.name).map((c) => ({ ...c, from: name }));
  const lane = machine.lanes[state.lane]!.path;
  // One that leaves several states leaves the copy too.
  const shared = list.flatMap((c, i) =>
    Array.isArray(c.from) && c.from.includes(state.name)
      ? [{ path: [...lane, 'crossings', i, 'from'], value: [...c.from, name] }]
      : [],
  );
  return [
    { path: [...state.path.slice(0, -1), name], value: structuredClone(own) },
    ...shared,
    ...ways.map((value, i) => ({ path: [...lane, 'crossings', list.length + i], value, insert: true })),
  ];
}

/** Removes a state with every crossing that leads to it or leaves only it. */
export function removeState(machine: Machine, index: number): Change[] {
  const state = machine.states[index]!;
  const changes: Change[] = [];
  for (const crossing of [...machine.lanes[state.lane]!.crossings].reverse()) {
    if (crossing.to === index || (crossing.from.length === 1 && crossing.from[0] === index))
      changes.push({ path: crossing.path });
    else if (crossing.from.includes(index)) {
      const rest = crossing.from.filter((s) => s !== index).map((s) => machine.states[s]!.name);
      changes.push({ path: [...crossing.path, 'from'], value: rest.length === 1 ? rest[0] : rest });
    }
  }
  return [...changes, { path: state.path }];
}

/** A number or truth value stays one in the file; everything else is text in the notation. */
export const plain = (text: string): string | number | boolean =>
  text === 'true' ? true : text === 'false' ? false : /^-?\d+(\.\d+)?$/.test(text) ? Number(text) : text;
