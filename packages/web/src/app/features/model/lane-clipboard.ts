import { type Machine, standAlone, type StateAlone } from '@glenmark/core/machine';
import {
  type Change,
  type CrossingFile,
  fragmentOf,
  fragmentText,
  type MovesetFile,
} from '@glenmark/core/model';

/**
 * What is copied of a lane is written as a lane of a moveset is, in YAML, so that it can be pasted into a file too:
 * `states` with one state and `crossings` with its ways out, or `crossings` with one alone.
 */
export const copiedCrossingText = (crossing: CrossingFile): string => fragmentText({ crossings: [crossing] });

/** The text of a state with what its groups give it, or undefined for a group: that is more than one state. */
export function copiedStateText(machine: Machine, file: MovesetFile, index: number): string | undefined {
  const alone = standAlone(machine, file, index);
  if (alone === undefined) return undefined;
  const { state, is, ways } = alone;
  const crossings = ways.map((way) => ({ from: state, ...way }));
  return fragmentText({ states: { [state]: is }, ...(crossings.length === 0 ? {} : { crossings }) });
}

/** A state from the clipboard, or undefined for a text that is none. */
export function copiedState(text: string): StateAlone | undefined {
  const lane = laneOf(text);
  const [entry, ...more] = Object.entries(lane?.states ?? {});
  if (entry === undefined || more.length > 0 || typeof entry[1] !== 'object' || entry[1] === null)
    return undefined;
  const [state, is] = entry;
  const ways = lane!.crossings.filter((c) => c.from === state).map(({ from: _, ...way }) => way);
  return ways.length === lane!.crossings.length ? { state, is, ways } : undefined;
}

/** A crossing from the clipboard, or undefined for a text that is none. */
export function copiedCrossing(text: string): CrossingFile | undefined {
  const lane = laneOf(text);
  return lane !== undefined && lane.states === undefined && lane.crossings.length === 1
    ? lane.crossings[0]
    : undefined;
}

/** A text with `states`, `crossings` or both; what they are in detail is looked at when they are put into a moveset. */
function laneOf(
  text: string,
): { states?: Record<string, StateAlone['is']>; crossings: CrossingFile[] } | undefined {
  // Most texts that are pasted are none, and need not be read to see it.
  if (!/^(states|crossings):/m.test(text)) return undefined;
  const { states, crossings = [], ...other } = fragmentOf(text) ?? { other: true };
  const isLane =
    Object.keys(other).length === 0 &&
    (states === undefined || (typeof states === 'object' && states !== null && !Array.isArray(states))) &&
    Array.isArray(crossings) &&
    crossings.every((c) => typeof (c as Partial<CrossingFile> | null)?.to === 'string');
  return isLane
    ? { states: states as Record<string, StateAlone['is']>, crossings: crossings as CrossingFile[] }
    : undefined;
}

/** Puts a copied state into a lane, under a free name. Ways that lead to what is not there are left out, and named. */
export function pasteState(
  machine: Machine,
  file: MovesetFile,
  lane: number,
  copied: StateAlone,
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
