import { present } from '../../present.js';
import { chainOf, type Machine, slotOf, startFast, step } from '../../machine/index.js';
import {
  createMoves,
  createNearby,
  type NearbySearch,
  type Outcome,
  type Survey,
  type Way,
} from '../../scout/index.js';
import { type Finding, createFinding } from '../sentences/finding.js';
import { guardOrNull, waysOut } from '../proved/guard.js';
import { leafOf, replay, witnessTape } from './witness.js';

/** Moves that a search for a way out may play, and how far ahead it looks (ticks). */
const MAX_TRIES = 6_000;
const HORIZON = 600;
/** Suspected places that are searched, a survey. */
const CANDIDATES = 6;

/**
 * OUT3 and OUT6 by the course: places from which the scouting never saw a state left. From each of them everything is
 * tried until nothing new comes of it; if the state is never left, that is a trap.
 */
export function confirmTraps(survey: Survey, known: readonly Finding[]): Finding[] {
  const { machine } = survey;
  const found: Finding[] = [];
  for (const { lane, leaf, way } of candidates(survey).slice(0, CANDIDATES)) {
    const name = present(machine.states[leaf]).name;
    const laneName = present(machine.lanes[lane]).name;
    const isReported = [...known, ...found].some(
      (f) =>
        f.lane === laneName && f.state === name && f.code.startsWith('OUT') && f.certainty !== 'suspected',
    );
    if (isReported) continue;
    const search = searchFor(survey, way, lane, leaf);
    if (search.out) continue;
    found.push(trapFinding(survey, lane, leaf, way, search.situations));
  }
  return found;
}

/** Spots of the course from which no move, nor any that followed, led out of a lane's state; the earliest of each. */
function candidates(survey: Survey): { lane: number; leaf: number; way: Way }[] {
  const { machine } = survey;
  const spots = survey.spots();
  const back = new Map<number, number[]>();
  for (const [code, { next }] of spots)
    for (const target of next) {
      const list = back.get(target);
      if (list === undefined) back.set(target, [code]);
      else list.push(code);
    }
  return machine.lanes.flatMap(({ index: lane, states }) => {
    if (states.filter((s) => present(machine.states[s]).members.length === 0).length < 2) return [];
    const isLeft = new Set<number>();
    const queue: number[] = [];
    for (const [code, { leaves, next }] of spots) {
      if (![...next].some((n) => present(spots.get(n)).leaves[lane] !== leaves[lane])) continue;
      isLeft.add(code);
      queue.push(code);
    }
    for (let code = queue.pop(); code !== undefined; code = queue.pop())
      for (const source of back.get(code) ?? [])
        if (!isLeft.has(source)) {
          isLeft.add(source);
          queue.push(source);
        }
    const first = new Map<number, number>();
    for (const [code, { leaves, first: node }] of spots) {
      const leaf = present(leaves[lane]);
      if (isLeft.has(code) || chainOf(machine, leaf).some((s) => present(machine.states[s]).final)) continue;
      if (!first.has(leaf)) first.set(leaf, node);
    }
    return [...first].map(([leaf, node]) => ({ lane, leaf, way: survey.wayTo(node) }));
  });
}

/**
 * Looks for a way out from the end of a way: first by a few inputs from each situation, then, when they led nowhere, by all.
 * `out` when the state is left, the course is, or there was too much to try for saying that there is no way out.
 */
function searchFor(survey: Survey, way: Way, lane: number, leaf: number): Search {
  const { fast, starts } = survey;
  const s = startFast(fast, present(starts[way.start]));
  for (const input of way.inputs) step(fast, s, input);
  if (leafOf(fast, s, lane) !== leaf) return { out: true, situations: 0 };
  // It may be left and entered again within a move.
  const isFound = ({ took, events }: Outcome): boolean =>
    took[1] !== 0 ||
    events.some(
      ({ event }) =>
        event.kind === 'taken' && event.lane === lane && event.from === leaf && event.to !== leaf,
    );
  const nearby = createNearby(fast);
  const by = (inputs: NearbySearch['inputs']): Search => {
    const { ended, situations } = nearby(s, {
      inputs,
      tries: MAX_TRIES,
      horizon: HORIZON,
      isFound,
    });
    return { out: ended !== 'nothing', situations };
  };
  const first = by({ seed: leaf });
  return first.out || first.situations * createMoves(fast).count(s) > MAX_TRIES
    ? { ...first, out: true }
    : by('all');
}

interface Search {
  out: boolean;
  situations: number;
}

function trapFinding(survey: Survey, lane: number, leaf: number, way: Way, situations: number): Finding {
  const { machine, course } = survey;
  const state = present(machine.states[leaf]);
  const rest = machine.controls.map(() => 0);
  const inputs = [...way.inputs, ...Array.from({ length: 30 }, () => rest)];
  const records = replay(survey, way.start, inputs);
  const last = present(records[records.length - 1]);
  const stance = refusedFor(machine, leaf, last.facts);
  const tick = way.inputs.length;
  const at = { x: last.body.x, y: last.body.y, course: course.name, ticks: HORIZON, situations };
  const exits = waysOut(machine, present(machine.lanes[lane]).crossings, leaf).map((c) => ({
    to: present(machine.states[c.to]).name,
    when: guardOrNull(c),
  }));
  const tape = `${stance === undefined ? 'OUT3' : 'OUT6'} ${state.name}`;
  const of = {
    certainty: 'witnessed' as const,
    lane: present(machine.lanes[lane]).name,
    state: state.name,
    crossing: null,
    path: state.path,
    witness: { tape, tick },
  };
  const seen =
    stance === undefined
      ? createFinding({ ...of, code: 'OUT3', evidence: { kind: 'place', at, exits } })
      : createFinding({ ...of, code: 'OUT6', evidence: { stance, at, exits } });
  const text = witnessTape(survey, { start: way.start, inputs }, tape, seen.sentence, tick);
  return { ...seen, witness: { tape, tick, text } };
}

/** The stance for which there is no room, when a way out leads to one. */
function refusedFor(machine: Machine, leaf: number, facts: Float64Array): string | undefined {
  const { lane } = present(machine.states[leaf]);
  for (const crossing of waysOut(machine, present(machine.lanes[lane]).crossings, leaf)) {
    const target = present(machine.states[crossing.to]);
    if (target.stance < 0 || target.ifBlocked === 'wait') continue;
    const { name } = present(machine.stances[target.stance]);
    if (facts[slotOf(machine.facts, 'fits', name)] === 0) return name;
  }
  return undefined;
}
