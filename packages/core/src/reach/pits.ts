import { present } from '../present.js';
import {
  type Box,
  createNearby,
  createScout,
  MARKS,
  type Outcome,
  type Nearby,
  type Scout,
  type Way,
} from '../scout/index.js';
import type { Steps } from '../steps.js';
import { sinksOf } from './sinks.js';
import { HEIGHT, type Stands, watchStands, WIDTH } from './stands.js';

/** A place that the body gets into and, as far as was searched, never out of. */
export interface Pit {
  /** Where it rests there: squares of a metre by a quarter of one. */
  squares: Box[];
  /** The soonest way into it that is known. */
  way: Way;
}

/** Moves that are tried around a place at first, how far ahead (ticks), and places that are looked at so. */
const TRIES = 200;
const HORIZON = 600;
const PLACES = 4_000;

/** Situations of the scouting that has to come out of what is left, and how many such are made. */
const SITUATIONS = 20_000;
const SCOUTINGS = 40;

/** Squares of a place that a scouting begins in, at most. */
const BEGUN = 16;

/**
 * The pits among where a body rests: squares that lead to each other and to nothing else. More than half of all squares are
 * where one plays, and no pit; nor is where a run begins, or where one falls out of the course. A way out of each is searched
 * for, first nearby and then by a scouting that begins there; only what was not left is told. In steps of a search, or of a
 * round of one.
 */
export function* findPits(scout: Scout, stands: Stands, seed: number): Steps<Pit[]> {
  const nearby = createNearby(scout.fast);
  yield* settle(stands, PLACES, function* (squares) {
    lookNearby(stands, squares, nearby);
    yield;
  });
  const scouted = yield* settle(stands, SCOUTINGS, function* (squares) {
    yield* lookByScouting(scout, stands, squares, seed);
    // What that came to is new, and is mostly left at once.
    for (const more of suspectedIn(stands))
      if (more.some((s) => squares.includes(s))) lookNearby(stands, more, nearby);
  });
  return suspectedIn(stands)
    .filter((squares) => scouted.has(nameOf(squares)))
    .filter((squares) => squares.some((square) => present(stands.all.get(square)).isGround))
    .map((squares) => ({
      squares: squares.map((square) => {
        const { x, y } = present(stands.all.get(square));
        return { minX: x, maxX: x + WIDTH, minY: y, maxY: y + HEIGHT };
      }),
      way: wayInto(stands, squares),
    }));
}

/** Looks out of what is suspected until nothing more is that was not looked at, or often enough; gives what was. */
function* settle(
  stands: Stands,
  most: number,
  look: (squares: readonly number[]) => Steps<void>,
): Steps<Set<string>> {
  const seen = new Set<string>();
  while (seen.size < most) {
    const open = suspectedIn(stands).filter((squares) => !seen.has(nameOf(squares)));
    if (open.length === 0) break;
    for (const squares of open) {
      seen.add(nameOf(squares));
      yield* look(squares);
    }
  }
  return seen;
}

const nameOf = (squares: readonly number[]): string => [...squares].sort((a, b) => a - b).join(' ');

/** Squares that lead nowhere else, as far as is known, but for those where a run begins or is meant to end; the soonest first. */
function suspectedIn(stands: Stands): number[][] {
  const { all, next } = stands;
  const soonest = (squares: readonly number[]): number => present(all.get(soonestOf(stands, squares))).ticks;
  return sinksOf(next)
    .filter((squares) => squares.every((square) => all.has(square)))
    .filter((squares) => squares.length <= all.size / 2)
    .filter((squares) =>
      squares.every((square) => {
        const { ticks, isEnd } = present(all.get(square));
        return ticks > 0 && !isEnd;
      }),
    )
    .sort((a, b) => soonest(a) - soonest(b));
}

/** The square of some that was come to soonest. */
const soonestOf = ({ all }: Stands, squares: readonly number[]): number =>
  squares.reduce((a, b) => (present(all.get(b)).ticks < present(all.get(a)).ticks ? b : a));

const wayInto = (stands: Stands, squares: readonly number[]): Way =>
  present(stands.all.get(soonestOf(stands, squares))).wayThere();

/** Tries moves from some squares until the body rests anywhere else. */
function lookNearby(
  stands: Stands,
  squares: readonly number[],
  nearby: ReturnType<typeof createNearby>,
): void {
  const inside = new Set(squares);
  const { situation, wayThere } = present(stands.all.get(soonestOf(stands, squares)));
  // The squares lead to each other, so that it does not matter from which of them something leads on.
  const before = present(squares[0]);
  const isFound = ({ took, marks, situations, input }: Outcome, from: Nearby): boolean => {
    const held = Array.from(input);
    for (let mark = 0; mark < MARKS && marks[mark] !== 0; mark++) {
      const after = present(marks[mark]);
      const square = stands.arrive(present(situations[mark]), before, () => {
        const { start, inputs } = wayThere();
        return { start, inputs: [...inputs, ...from.inputs(), ...Array.from({ length: after }, () => held)] };
      });
      if (!inside.has(square)) return true;
    }
    if (took[1] === 0) return false;
    stands.leave(before);
    return true;
  };
  nearby(situation, { inputs: { seed: 1 }, tries: TRIES, horizon: HORIZON, isFound });
}

/** Scouts from some squares until the body rests anywhere else. */
function* lookByScouting(
  { machine, course }: Scout,
  stands: Stands,
  squares: readonly number[],
  seed: number,
): Steps<void> {
  const inside = new Set(squares);
  const every = Math.ceil(squares.length / BEGUN);
  const from = squares
    .filter((_, i) => i % every === 0)
    .map((square) => present(stands.all.get(square)).wayThere());
  const scout = createScout(machine, course, { seed, from, full: 2_000 });
  let isLeft = false;
  watchStands(scout, stands, present(squares[0]), (square) => {
    if (!inside.has(square)) isLeft = true;
  });
  for (let last = -1; !isLeft; yield) {
    const { situations, expanded } = scout.progress();
    if (situations >= SITUATIONS || expanded === last) return;
    last = expanded;
    scout.round();
  }
}
