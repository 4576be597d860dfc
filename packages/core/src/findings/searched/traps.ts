import { present } from '../../present.js';
import { chainOf, type Fast, type Machine, slotOf, startFast, step } from '../../machine/index.js';
import {
  createArena,
  createExpander,
  createKeySet,
  createMoves,
  createRandom,
  MARKS,
  mixed,
  type Moves,
  type Scout,
  type Way,
} from '../../scout/index.js';
import { type Finding, createFinding } from '../sentences/finding.js';
import { guardOrNull, waysOut } from '../proved/guard.js';
import { leafOf, replay, witnessTape } from './witness.js';

/** Moves that a search for a way out may play, and how far ahead it looks (ticks). */
const MAX_TRIES = 6_000;
const HORIZON = 600;
/** Inputs that are tried from each situation at first, and how many of eight of them do what a guard asks for. */
const FEW = 3;
const GUIDED = 2;
/** The same situation counts as another so much later: what only takes time is waited for (ticks). */
const LATER = 8;
/** Suspected places that are searched, a scout. */
const CANDIDATES = 6;

/**
 * OUT3 and OUT6 by the course: places from which the scouting never saw a state left. From each of them everything is
 * tried until nothing new comes of it; if the state is never left, that is a trap.
 */
export function confirmTraps(scout: Scout, known: readonly Finding[]): Finding[] {
  const { machine } = scout;
  const found: Finding[] = [];
  for (const { lane, leaf, way } of candidates(scout).slice(0, CANDIDATES)) {
    const name = present(machine.states[leaf]).name;
    const laneName = present(machine.lanes[lane]).name;
    const isReported = [...known, ...found].some(
      (f) =>
        f.lane === laneName && f.state === name && f.code.startsWith('OUT') && f.certainty !== 'suspected',
    );
    if (isReported) continue;
    const search = searchFor(scout, way, lane, leaf);
    if (search.out) continue;
    found.push(trapFinding(scout, lane, leaf, way, search.situations));
  }
  return found;
}

/** Spots of the course from which no move, nor any that followed, led out of a lane's state; the earliest of each. */
function candidates(scout: Scout): { lane: number; leaf: number; way: Way }[] {
  const { machine } = scout;
  const spots = scout.spots();
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
    return [...first].map(([leaf, node]) => ({ lane, leaf, way: scout.wayTo(node) }));
  });
}

/**
 * Looks for a way out from the end of a way: first by a few inputs from each situation, then, when they led nowhere, by all.
 * `out` when the state is left, the course is, or there was too much to try for saying that there is no way out.
 */
function searchFor(scout: Scout, way: Way, lane: number, leaf: number): Search {
  const { fast, starts } = scout;
  const s = startFast(fast, present(starts[way.start]));
  for (const input of way.inputs) step(fast, s, input);
  if (leafOf(fast, s, lane) !== leaf) return { out: true, situations: 0 };
  const moves = createMoves(fast);
  const few = (situation: Float64Array, i: number): number[] => {
    const random = createRandom(mixed(i, leaf));
    const tried = { likely: 0, others: 0 };
    const drawn = Array.from({ length: FEW }, () =>
      moves.draw(situation, tried, { random, guided: GUIDED, open: [] }),
    );
    return drawn.flatMap((d) => (d === undefined ? [] : [d.code]));
  };
  const every = (situation: Float64Array): number[] => [...Array(moves.count(situation)).keys()];
  const first = searchBy(fast, moves, { from: s, lane, leaf }, few);
  if (first.out || first.situations * moves.count(s) > MAX_TRIES) return { ...first, out: true };
  return searchBy(fast, moves, { from: s, lane, leaf }, every);
}

interface Search {
  out: boolean;
  situations: number;
}

/** Tries the given inputs from a situation, and from all that comes of it. */
function searchBy(
  fast: Fast,
  moves: Moves,
  { from, lane, leaf }: { from: Float64Array; lane: number; leaf: number },
  inputs: (situation: Float64Array, i: number) => readonly number[],
): Search {
  const arena = createArena(fast, 1);
  const expander = createExpander(fast, arena, true);
  const outcome = arena.outcome(0);
  const kept = createKeySet();
  const queue = [{ situation: from.slice(), ticks: 0 }];
  let tries = 0;
  /** Takes in what came of a move; true when it led out. */
  const leadsOut = (before: number): boolean => {
    const { took, keys, marks, situations, events } = outcome;
    // It may be left and entered again within the move.
    const isLeft = events.some(
      ({ event }) =>
        event.kind === 'taken' && event.lane === lane && event.from === leaf && event.to !== leaf,
    );
    if (isLeft || took[1] !== 0) return true;
    for (let mark = 0; mark < MARKS; mark++) {
      const after = present(marks[mark]);
      if (after === 0) break;
      const ticks = before + after;
      const later = Math.floor(ticks / LATER);
      const isNew = kept.add(mixed(present(keys[2 * after - 2]), later) >>> 0, present(keys[2 * after - 1]));
      if (isNew && ticks < HORIZON) queue.push({ situation: present(situations[mark]).slice(), ticks });
    }
    return false;
  };
  for (let i = 0; i < queue.length; i++) {
    const { situation, ticks } = present(queue[i]);
    arena.situation(0).set(situation);
    for (const code of inputs(situation, i)) {
      moves.put(situation, code, outcome.input);
      expander.expand(0, []);
      if (leadsOut(ticks) || ++tries > MAX_TRIES) return { out: true, situations: kept.size };
    }
  }
  return { out: false, situations: kept.size };
}

function trapFinding(scout: Scout, lane: number, leaf: number, way: Way, situations: number): Finding {
  const { machine, course } = scout;
  const state = present(machine.states[leaf]);
  const rest = machine.controls.map(() => 0);
  const inputs = [...way.inputs, ...Array.from({ length: 30 }, () => rest)];
  const records = replay(scout, way.start, inputs);
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
  const text = witnessTape(scout, { start: way.start, inputs }, tape, seen.sentence, tick);
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
