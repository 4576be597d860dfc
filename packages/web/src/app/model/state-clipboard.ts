import type { Change, CrossingFile, Machine, MovesetFile } from '@glenmark/core';

/** A state on the clipboard: its own definition and its ways out, as a text that any moveset can take. */
export interface CopiedState {
  state: string;
  is: Record<string, unknown>;
  ways: (Omit<CrossingFile, 'from'> & { to: string })[];
}

/** The text of a state, or undefined for a group: that is more than one state. */
export function copiedStateText(machine: Machine, file: MovesetFile, index: number): string | undefined {
  const state = machine.states[index]!;
  if (state.members.length > 0) return undefined;
  const is = state.path.reduce<unknown>((at, step) => (at as Record<string | number, unknown>)[step], file);
  const ways = (file.lanes[state.lane]!.crossings ?? [])
    .filter((c) => [c.from].flat().includes(state.name))
    .map(({ from: _, ...rest }) => rest);
  return JSON.stringify({ state: state.name, is, ways });
}

/** A state from the clipboard, or undefined for a text that is none. */
export function copiedState(text: string): CopiedState | undefined {
  try {
    const value = JSON.parse(text) as Partial<CopiedState> | null;
    const isOne =
      typeof value?.state === 'string' &&
      typeof value.is === 'object' &&
      Array.isArray(value.ways) &&
      value.ways.every((w) => typeof w?.to === 'string');
    return isOne ? (value as CopiedState) : undefined;
  } catch {
    return undefined;
  }
}

/** Puts a copied state into a lane, under a free name. Ways that lead to what is not there are left out, and named. */
export function pasteState(
  machine: Machine,
  file: MovesetFile,
  lane: number,
  copied: CopiedState,
): { name: string; changes: Change[]; leftOut: string[] } {
  const taken = machine.states.map((s) => s.name);
  let name = copied.state;
  for (let n = 2; taken.includes(name); n++) name = `${copied.state}${n}`;
  const own = machine.lanes[lane]!.states.map((s) => machine.states[s]!.name);
  const goes = (to: string): boolean => own.includes(to) || to === copied.state;
  const path = machine.lanes[lane]!.path;
  const list = file.lanes[lane]!.crossings ?? [];
  const ways = copied.ways
    .filter((w) => goes(w.to))
    .map((w) => ({ from: name, ...w, to: w.to === copied.state ? name : w.to }));
  return {
    name,
    leftOut: copied.ways.filter((w) => !goes(w.to)).map((w) => w.to),
    changes: [
      { path: [...path, 'states', name], value: structuredClone(copied.is) },
      ...(list.length === 0 && ways.length > 0
        ? [{ path: [...path, 'crossings'], value: ways }]
        : ways.map((value, i) => ({ path: [...path, 'crossings', list.length + i], value, insert: true }))),
    ],
  };
}
