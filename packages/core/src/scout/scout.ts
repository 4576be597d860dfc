import { createFast, type Machine, place, startFast, step } from '../machine/index.js';
import { buildWorld, type Course } from '../world/index.js';
import { type Box, distanceTo } from './box.js';
import { createBuckets, type Draw } from './buckets.js';
import { type Arena, arenaBytes, createArena, LONGEST, MARKS, type Outcome } from './arena.js';
import { createLook, type Event, type Events, labelOf, takenLabel } from './events.js';
import { type Aim, createExpander, type Expander, type Goal, hasLeft } from './expand.js';
import { keyOf } from './key.js';
import { createLeafCodes } from './leaf-codes.js';
import { digestOf, type Digests, packDigests } from './digests.js';
import { createKeySet } from './keys.js';
import { createMemory } from './memory.js';
import { createMoves } from './moves.js';
import { createNearest, type Nearest } from './nearest.js';
import { createRandom, mixed } from './random.js';
import { isHeldOn, roomFor, type Root, rootAfter, rootsIn } from './roots.js';
import { startsOf } from './starts.js';
import { type Approach, type Sighting, type Spot, SQUARES, type Survey, type Way } from './survey.js';
import { endsIn, type Growing, type WayTree } from './tree.js';

export interface ScoutOptions {
  /** The same seed and budget give the same scouting. */
  seed: number;
  /** Crossings that are known never to be taken, as `lane crossing`; they are no goals. */
  dead?: ReadonlySet<string>;
  /** Also begins at every place of a grid this wide where the body fits (metres). */
  grid?: number;
  /** A place to come to: what is near it is gone on from more often. */
  toward?: Box;
  /** Goes on from where these ways lead, and not from the starts themselves. */
  from?: readonly Way[];
  /** Begins at every so manyth start only, from the `part`th on: others begin at the others. */
  region?: { part: number; of: number };
  /** Goes on from the ends of ways in a tree, and not from the starts. */
  grown?: { tree: WayTree; ends: readonly number[] };
  /** Situations, by their keys, that others came to: they are not new here. */
  known?: (high: number, low: number) => boolean;
  /** What others saw, by `labelOf`: it is not seen for the first time here, and a crossing of it is no goal. */
  sighted?: ReadonlySet<string>;
  /** Situations kept in full for being expanded again. */
  full?: number;
  /** Makes the memory of the arena: shared memory when other threads expand. */
  share?: (bytes: number) => ArrayBufferLike;
}

/** A situation that was kept: the node it is, the one that a move led from (−1 where it began), and the way there. */
export interface Kept {
  node: number;
  parent: number;
  wayThere: () => Way;
}

/** Looks at a situation that was kept. */
export type Watcher = (s: Float64Array, kept: Kept) => void;

export interface Progress {
  situations: number;
  ticks: number;
  expanded: number;
  /** Crossings taken so far, and how many there are that may be. */
  taken: number;
  crossings: number;
}

/** A situation to expand: the node it is, and the slot of the arena that it and an input were put in. */
export interface Task {
  node: number;
  slot: number;
  /** Whether a guard asks for the input. */
  isGuided: boolean;
}

/** What is expanded together, with the goals that were open when it was drawn. */
export interface Round {
  tasks: Task[];
  goals: Aim[];
}

/**
 * A search through input sequences on one course. Rounds are drawn one ahead: the next is drawn before the last is
 * merged, so that others can expand the one while this thread merges the other.
 */
export interface Scout extends Survey {
  /** Where the situations of two rounds lie and what comes of them: memory of its own, or what was given. */
  arena: Arena;
  /** The situations of the next round, put into the arena. */
  draw(): Round;
  /** Takes in what came of a round's tasks, in the order of the tasks. */
  merge(round: Round, outcomes: readonly Outcome[]): void;
  /** Expands a round on this thread. */
  expand(round: Round): Outcome[];
  /** Expands one slot on this thread. It tells the first of each sort of event only, or all. */
  expandIn(slot: number, goals: readonly Aim[], tellsAll: boolean): Outcome;
  /** A whole round on this thread. */
  round(): void;
  progress(): Progress;
  /** Plays inputs from a start and takes in what comes of it, as of any move; gives how many situations were new. */
  sow(way: Way): number;
  /** How near it came to the place that it goes toward (m), and the way there; undefined without such a place. */
  nearest(): Approach | undefined;
  /** Situations that it is most worth going on from: those near a goal, and the latest of every sort. */
  frontier(count: number): number[];
  /** Makes a function that adds the way to a situation to a tree, and gives its end there. */
  endsIn(grown: Growing): (node: number) => number;
  /** The keys of the situations that are new here, as they travel. */
  newKeys(): Digests;
  /** Calls `see` for every situation that it begins at, and every new one that is kept. */
  watch(see: Watcher): void;
}

/** Situations expanded in one round, after a few smaller ones; and slots for two of them. */
const ROUND = 64;
export const SLOTS = 2 * ROUND;

/** Nodes kept for a goal: the nearest to its guard. */
const NEAREST = 8;

/** Nodes kept for a place to come to: the nearest. They leave it in different ways, so more than for a guard. */
const CLOSEST = 64;

/** What was tried from a situation whose inputs are all tried; and of one in which it is not worth holding on. */
const EXHAUSTED = -1;
const HELD = 1;

/** What random moves and guided ones led to. */
interface Earned {
  random: { tries: number; kept: number };
  guided: { tries: number; kept: number };
}

/** Of eight moves so many are guided: as many as they earn of all, but always some of both. */
function guidedOf({ random, guided }: Earned): number {
  const [a, b] = [random.kept / random.tries, guided.kept / guided.tries];
  return Math.min(5, Math.max(1, Math.round((8 * b) / (a + b))));
}

/** A goal with the nodes that came nearest to it. */
interface OpenGoal extends Goal {
  nearest: Nearest;
}

export function createScout(machine: Machine, course: Course, options: ScoutOptions): Scout {
  const world = buildWorld(course, machine.stances, machine.casts);
  const fast = createFast(machine, world);
  const { layout } = fast;
  const buffer = options.share?.(arenaBytes(fast, SLOTS));
  const arena = createArena(fast, SLOTS, buffer);
  const expander = createExpander(fast, arena);
  /** The expander that tells all, once it is needed. */
  let telling: Expander | undefined;
  const moves = createMoves(fast);
  const starts = startsOf(machine, world, options.grid);
  const { grown } = options;
  const laidRoom = grown === undefined ? 0 : roomFor(grown.tree);
  const room = Math.max(starts.length + 256, options.full ?? 60_000) + laidRoom;
  const memory = createMemory(layout.size, room, starts.length);
  /** All situations; those that are kept are marked. */
  const seen = createKeySet(undefined, options.known);
  const byLeaves = createBuckets();
  const byPlace = createBuckets();
  const goals: OpenGoal[] = machine.lanes.flatMap((lane) =>
    lane.crossings
      .filter((c) => options.dead?.has(`${lane.index} ${c.index}`) !== true)
      .filter((c) => options.sighted?.has(takenLabel(lane.index, c.index)) !== true)
      .map((c) => ({ lane: lane.index, crossing: c.index, nearest: createNearest(NEAREST) })),
  );
  const goalOf = new Map(goals.map((g) => [`${g.lane} ${g.crossing}`, g]));
  const crossings = goals.length;
  const sightings = new Map<string, Sighting>();
  const spots = new Map<number, Spot>();
  const leafCode = createLeafCodes(fast);
  const spotOf = (s: Float64Array, node: number): number => {
    const square = (Math.floor(s[place.X]!) & 0xfff) * 0x1000 + (Math.floor(s[place.Y]!) & 0xfff);
    const code = leafCode(s) * SQUARES + square;
    if (!spots.has(code)) {
      const leaves = Array.from(s.subarray(layout.leaves, layout.leaves + machine.lanes.length));
      spots.set(code, { leaves, first: node, next: new Set() });
    }
    return code;
  };
  /** How many moves were tried, and how many led to a situation that was kept: random ones, and guided ones. */
  const earned: Earned = { random: { tries: 1, kept: 1 }, guided: { tries: 1, kept: 1 } };
  const watchers: Watcher[] = [];
  let ticks = 0;
  let expanded = 0;
  let rounds = 0;

  const { toward } = options;
  /** The nodes that came nearest to the place to come to. */
  const near = createNearest(CLOSEST);

  const keep = (node: number, s: Float64Array, parent: number): void => {
    if (toward !== undefined) near.add(node, distanceTo(toward, s[place.X]!, s[place.Y]!));
    byLeaves.add(leafCode(s), node);
    const [x, y] = [Math.floor(s[place.X]! / 2), Math.floor(s[place.Y]! / 2)];
    byPlace.add(((x & 0xffff) * 0x10000 + (y & 0xffff)) * machine.states.length + s[layout.leaves]!, node);
    for (const see of watchers) see(s, { node, parent, wayThere: () => memory.wayTo(node) });
  };
  const roots = starts.map((start): Root => {
    const s = startFast(fast, start);
    return { node: memory.add(-1, [], 0, s), s };
  });
  const { region: { part, of } = { part: 0, of: 1 } } = options;
  const own = roots.filter((_, i) => i % of === part);
  // Where there are fewer starts than parts, several begin at the same ones.
  const where = { fast, starts, memory };
  const begun =
    grown !== undefined
      ? rootsIn(where, grown)
      : (options.from?.map((way) => rootAfter(where, way)) ?? (own.length > 0 ? own : roots));
  for (const { node, s } of begun) keep(node, s, -1);

  const note = (node: number, held: ArrayLike<number>, tick: number, event: Event): void => {
    const label = labelOf(event);
    if (sightings.has(label) || options.sighted?.has(label) === true) return;
    const way = memory.wayTo(node);
    const input = Array.from(held);
    for (let i = 0; i <= tick; i++) way.inputs.push(input);
    sightings.set(label, { event, way });
    if (event.kind !== 'taken') return;
    const at = goals.findIndex((g) => g.lane === event.lane && g.crossing === event.crossing);
    if (at >= 0) goals.splice(at, 1);
  };

  const look = createLook(fast);
  const writeKey = keyOf(fast);
  const key = new Uint32Array(2);
  const sow = ({ start, inputs }: Way): number => {
    const s = startFast(fast, starts[start]!);
    const before = seen.size;
    let node = start;
    let from = spotOf(s, node);
    let held = 0;
    for (const [t, input] of inputs.entries()) {
      step(fast, s, input);
      held++;
      ticks++;
      writeKey(s, key, 0);
      seen.add(key[0]!, key[1]!);
      const events: Events = [];
      look(s, held - 1, events);
      for (const { tick, event } of events) note(node, input, tick, event);
      if (hasLeft(course, s)) break;
      if (held < LONGEST && isHeldOn(input, inputs[t + 1])) continue;
      const child = memory.add(node, input, held, s);
      if (seen.mark(key[0]!, key[1]!)) {
        keep(child, s, node);
        spots.get(from)!.next.add(spotOf(s, child));
      }
      node = child;
      from = spotOf(s, node);
      held = 0;
    }
    return seen.size - before;
  };

  /** Whether something is left to try from a node: it was not let go, nor is it exhausted. */
  const mayBe = (node: number): boolean =>
    memory.situationOf(node) !== undefined && memory.triedOf(node).likely !== EXHAUSTED;

  /** The node that the i-th task of a round expands; −1 when nothing is left to try anywhere. */
  const drawNode = (
    i: number,
    random: (below: number) => number,
    { rare, fresh }: Record<'rare' | 'fresh', Draw[]>,
  ): number => {
    const goal = goals.length === 0 ? undefined : goals[random(goals.length)]!;
    if (i % 4 === 1) {
      const open = near.nodes.filter(({ node }) => mayBe(node));
      if (open.length > 0) return open[random(open.length)]!.node;
    }
    const closest = i % 4 === 0 ? (goal?.nearest.nodes.filter(({ node }) => mayBe(node)) ?? []) : [];
    if (closest.length > 0) return closest[random(closest.length)]!.node;
    const among = i % 4 < 2 ? rare : fresh;
    for (let k = 0; k < among.length; k++) {
      const node = among[(i + k) % among.length]!.draw(random, mayBe);
      if (node >= 0) return node;
    }
    return -1;
  };

  const aims = (): Aim[] =>
    goals.map(({ lane, crossing, nearest }) => ({
      lane,
      crossing,
      within: nearest.within(),
    }));

  /** Takes in a situation that a move was marked at, unless one like it is kept already; gives its node, or −1. */
  const takeMark = (task: Task, { input, keys, marks, situations }: Outcome, mark: number): number => {
    const after = marks[mark]!;
    if (!seen.mark(keys[2 * after - 2]!, keys[2 * after - 1]!)) return -1;
    const s = situations[mark]!;
    const child = memory.add(task.node, input, after, s);
    // To hold on to what is held is what the move itself went on to do, unless it ended there.
    memory.setTried(child, { likely: after === LONGEST ? 0 : HELD, others: 0 });
    keep(child, s, task.node);
    spots.get(spotOf(arena.situation(task.slot), task.node))!.next.add(spotOf(s, child));
    return child;
  };

  const takeOutcome = (task: Task, outcome: Outcome, open: readonly Aim[]): void => {
    const { keys, took, marks } = outcome;
    const held = took[0]!;
    ticks += held;
    seen.addAll(keys, held);
    for (const { tick, event } of outcome.events) note(task.node, outcome.input, tick, event);
    const gain = task.isGuided ? earned.guided : earned.random;
    gain.tries++;
    for (let mark = 0; mark < MARKS && marks[mark] !== 0; mark++) {
      const child = takeMark(task, outcome, mark);
      if (child < 0) continue;
      gain.kept++;
      for (const d of outcome.distances) {
        if (d.mark !== mark) continue;
        const { lane, crossing } = open[d.goal]!;
        goalOf.get(`${lane} ${crossing}`)!.nearest.add(child, d.distance);
      }
    }
  };

  const scout: Scout = {
    machine,
    course,
    fast,
    recording: createFast(machine, world, { allFacts: true, log: true }),
    starts,
    arena,
    goals: () => goals,
    draw() {
      const random = createRandom(mixed(options.seed, rounds++));
      const from = { rare: byLeaves.least(ROUND / 4), fresh: byPlace.least(ROUND / 4) };
      const how = { random, guided: guidedOf(earned), open: goals };
      const tasks: Task[] = [];
      const size = Math.min(ROUND, rounds + 1);
      for (let i = 0; i < size; i++) {
        const node = drawNode(i, random, from);
        if (node < 0) break;
        const situation = memory.situationOf(node)!;
        const tried = memory.triedOf(node);
        const drawn = moves.draw(situation, tried, how);
        memory.setTried(node, drawn === undefined ? { likely: EXHAUSTED, others: 0 } : tried);
        if (drawn === undefined) continue;
        const slot = (rounds % 2) * ROUND + i;
        arena.situation(slot).set(situation);
        moves.put(situation, drawn.code, arena.outcome(slot).input);
        tasks.push({ node, slot, isGuided: drawn.isGuided });
      }
      return { tasks, goals: aims() };
    },
    merge({ tasks, goals: open }, outcomes) {
      tasks.forEach((task, i) => {
        expanded++;
        takeOutcome(task, outcomes[i]!, open);
      });
    },
    expand: ({ tasks, goals: open }) => tasks.map(({ slot }) => expander.expand(slot, open)),
    expandIn: (slot, open, tellsAll) =>
      (tellsAll ? (telling ??= createExpander(fast, arena, true)) : expander).expand(slot, open),
    sow,
    round() {
      const round = scout.draw();
      scout.merge(round, scout.expand(round));
    },
    progress: () => ({
      situations: seen.size,
      ticks,
      expanded,
      taken: crossings - goals.length,
      crossings,
    }),
    sightingsFrom: (from) => [...sightings.values()].slice(from),
    approaches: () =>
      goals.flatMap(({ lane, crossing, nearest }) => {
        const first = nearest.nodes[0];
        return first === undefined
          ? []
          : [{ lane, crossing, distance: first.distance, way: memory.wayTo(first.node) }];
      }),
    nearest() {
      const first = near.nodes[0];
      return first && { distance: first.distance, way: memory.wayTo(first.node) };
    },
    spots: () => spots,
    wayTo: (node) => memory.wayTo(node),
    frontier(count) {
      const chosen = new Set(
        goals.flatMap(({ nearest }) => nearest.nodes.map(({ node }) => node)).filter(mayBe),
      );
      const sorts = [...byLeaves.least(Infinity), ...byPlace.least(Infinity)];
      for (let back = 0; chosen.size < count && back < count; back++)
        for (const sort of sorts) {
          const node = sort.latest(back);
          if (node >= 0 && mayBe(node)) chosen.add(node);
        }
      return [...chosen].slice(0, count);
    },
    endsIn: (grown) => endsIn(memory, grown),
    newKeys() {
      const digests = new Uint32Array(seen.size);
      let at = 0;
      seen.each((high, low) => (digests[at++] = digestOf(high, low)));
      return packDigests(digests);
    },
    watch(see) {
      for (const { node, s } of begun) see(s, { node, parent: -1, wayThere: () => memory.wayTo(node) });
      watchers.push(see);
    },
  };
  return scout;
}
