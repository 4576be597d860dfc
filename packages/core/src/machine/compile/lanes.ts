import { present } from '../../present.js';
import { didYouMean, type LaneFile, type Path, type StateFile } from '../../model/index.js';
import { type FactRef, TIME, TRUTH } from '../../notation/index.js';
import { type Context, expressionAt, fault, indexAt, noteNamed, referenceAt, ticksAt } from './context.js';
import type { Crossing, Lane, State } from '../definition/machine.js';
import { compileEffects } from './effects.js';
import { stanceWithout } from './stances.js';
import { kindOf } from './kind.js';
import { compileMotion, NO_MOTION } from './motion-rules.js';

/** Compiles all lanes; states of all lanes share one list so that `in(State)` needs no lane. */
export function compileLanes(context: Context): { lanes: Lane[]; states: State[] } {
  const states: State[] = [];
  const lanes: Lane[] = [];
  const laneNames = new Set<string>();
  context.file.lanes.forEach((file, index) => {
    const path: Path = ['lanes', index];
    if (laneNames.has(file.name))
      fault(context, [...path, 'name'], `a second lane is called '${file.name}', expected names that differ`);
    laneNames.add(file.name);
    const first = states.length;
    addStates(context, states, file.states, { lane: index, parent: undefined }, [...path, 'states']);
    const own = Array.from({ length: states.length - first }, (_, i) => first + i);
    if (own.length === 0)
      fault(context, [...path, 'states'], 'found a lane without states, expected at least one');
    const initial = memberNamed(
      context,
      states,
      own.filter((s) => present(states[s]).parent < 0),
      file.initial,
      [...path, 'initial'],
    );
    lanes.push({
      index,
      name: file.name,
      states: own,
      initial,
      yields: file.yields ?? [],
      crossings: [],
      path,
    });
  });
  lanes.forEach((lane, i) => {
    lane.crossings = compileCrossings(context, states, lane, present(context.file.lanes[i]));
  });
  for (const state of states) state.kind = kindOf(states, present(lanes[state.lane]), state);
  return { lanes, states };
}

function addStates(
  context: Context,
  states: State[],
  files: Record<string, StateFile>,
  { lane, parent }: { lane: number; parent: State | undefined },
  path: Path,
): void {
  for (const [name, file] of Object.entries(files)) {
    const at: Path = [...path, name];
    if (states.some((s) => s.name === name))
      fault(
        context,
        at,
        `a second state is called '${name}', expected names that differ in the whole moveset`,
        { key: true },
      );
    const elapsed = { fact: 'elapsed', of: name } as const;
    const own =
      file.stance === undefined
        ? (parent?.stance ?? -1)
        : referenceAt(context, 'stance', file.stance, [...at, 'stance']);
    const stance =
      file.without === undefined
        ? own
        : stanceWithout(context, own, [file.without].flat(), [...at, 'without']);
    const ability =
      file.ability === undefined
        ? (parent?.ability ?? -1)
        : referenceAt(context, 'ability', file.ability, [...at, 'ability']);
    const state: State = {
      index: states.length,
      name,
      lane,
      parent: parent?.index ?? -1,
      members: [],
      initial: -1,
      resumes: file.resume === 'last',
      home: file.home ?? false,
      final: file.final ?? false,
      passing: file.passing ?? false,
      stance,
      ifBlocked: file.ifBlocked ?? parent?.ifBlocked ?? 'refuse',
      ability,
      tags: file.tag === undefined ? (parent?.tags ?? []) : compileTags(context, file.tag, [...at, 'tag']),
      motion: compileMotion(context, file.motion, parent?.motion ?? NO_MOTION, [...at, 'motion'], elapsed),
      enter: compileEffects(context, file.enter, [...at, 'enter'], elapsed),
      exit: compileEffects(context, file.exit, [...at, 'exit'], elapsed),
      each: compileEffects(context, file.each, [...at, 'each'], elapsed),
      kind: 'footed',
      path: at,
    };
    states.push(state);
    parent?.members.push(state.index);
    if (file.ifBlocked !== undefined && file.states === undefined && stance < 0)
      context.idle.push({
        field: 'ifBlocked',
        because: `${name} asks for no stance`,
        path: [...at, 'ifBlocked'],
      });
    if (file.passing === true && file.states !== undefined)
      fault(
        context,
        [...at, 'passing'],
        `found 'passing' on the group '${name}', expected it on one of its members`,
        {
          key: true,
        },
      );
    if (file.states !== undefined) {
      if (Object.keys(file.states).length === 0)
        fault(context, [...at, 'states'], `found the group '${name}' without members, expected at least one`);
      addStates(context, states, file.states, { lane, parent: state }, [...at, 'states']);
      const first = Object.keys(file.states)[0];
      if (file.initial !== undefined)
        state.initial = memberNamed(context, states, state.members, file.initial, [...at, 'initial']);
      else if (first !== undefined)
        fault(
          context,
          at,
          `the group '${name}' does not say 'initial', expected one of its members such as ${first}`,
          { key: true },
        );
    } else {
      for (const key of ['initial', 'resume'] as const) {
        if (file[key] !== undefined)
          fault(context, [...at, key], `found '${key}' on '${name}', which has no members`, { key: true });
      }
    }
  }
}

function compileTags(context: Context, file: NonNullable<StateFile['tag']>, path: Path): State['tags'] {
  if (typeof file === 'string') return [{ tag: file, until: Infinity }];
  return file.map(({ tag, until }, i) => {
    const last = i === file.length - 1;
    if (until === undefined && !last)
      fault(
        context,
        [...path, i],
        `the tag '${tag}' does not say 'until', expected a length of time (only the last stays)`,
      );
    return {
      tag,
      until: until === undefined ? Infinity : ticksAt(context, until, [...path, i, 'until'], TIME),
    };
  });
}

function memberNamed(context: Context, states: State[], among: number[], name: string, path: Path): number {
  const names = among.map((s) => present(states[s]).name);
  const index = indexAt(context, { what: 'state here', list: names }, name, path);
  if (index >= 0) noteNamed(context, 'state', name, path);
  return index < 0 ? -1 : present(among[index]);
}

function compileCrossings(context: Context, states: State[], lane: Lane, file: LaneFile): Crossing[] {
  const names = lane.states.map((s) => present(states[s]).name);
  const resolve = (name: string, path: Path): number => {
    const index = names.indexOf(name);
    if (index >= 0) {
      noteNamed(context, 'state', name, path);
      return present(lane.states[index]);
    }
    const elsewhere = states.find((s) => s.name === name);
    const where =
      elsewhere === undefined
        ? ''
        : ` (it is in the lane '${present(context.file.lanes[elsewhere.lane]).name}')`;
    fault(
      context,
      path,
      `no state of the lane '${lane.name}' is called '${name}'${where || didYouMean(name, names) || `, expected one of ${names.slice(0, 12).join(', ')}`}`,
    );
    return -1;
  };
  return (file.crossings ?? []).flatMap((crossing, index): Crossing[] => {
    const path: Path = [...lane.path, 'crossings', index];
    const everywhere = crossing.from === '*';
    const from = everywhere
      ? []
      : [crossing.from]
          .flat()
          .map((name, i) =>
            resolve(name, Array.isArray(crossing.from) ? [...path, 'from', i] : [...path, 'from']),
          );
    if (!everywhere && from.length === 0)
      fault(context, [...path, 'from'], 'found an empty list, expected at least one state');
    const to = resolve(crossing.to, [...path, 'to']);
    // From one state or group it is that one's time; from several, or from everywhere, the time in the lane's state.
    const single =
      from.length === 1 && present(from[0]) >= 0 ? present(states[present(from[0])]).name : undefined;
    const elapsed: FactRef =
      single === undefined ? { fact: 'laneElapsed', of: lane.name } : { fact: 'elapsed', of: single };
    const compiled: Crossing = {
      index,
      lane: lane.index,
      from,
      fromList: Array.isArray(crossing.from),
      to,
      when: expressionAt(context, crossing.when, [...path, 'when'], TRUTH, { elapsed, usesPresses: true }),
      do: compileEffects(context, crossing.do, [...path, 'do'], elapsed),
      rank: crossing.rank ?? 0,
      ability:
        crossing.ability === undefined
          ? -1
          : referenceAt(context, 'ability', crossing.ability, [...path, 'ability']),
      reenter: crossing.reenter ?? false,
      path,
    };
    // From a state to itself it only says what happens anyway.
    const isPlain = from.length > 0 && from.every((s) => s >= 0 && present(states[s]).members.length === 0);
    if (compiled.reenter && isPlain && !from.includes(to))
      context.idle.push({
        field: 'reenter',
        because: 'only a crossing from a group or from everywhere can lead back to where the lane is',
        path: [...path, 'reenter'],
      });
    return to < 0 || from.includes(-1) ? [] : [compiled];
  });
}
