import { present } from '../../../present.js';
import type { Machine } from '../../../machine/index.js';
import { createFinding, type Finding } from '../../sentences/finding.js';
import { ofState, placeOf } from '../guard.js';
import type { Exit } from './explore/exits.js';
import type { Skeleton } from './explore/explore.js';
import { canReach, lastingValues } from './explore/reach.js';
import { isVariable, valueOf, writersOfThing } from './space.js';

/** Uses at most that are counted. */
const MAX_USES = 99;

/**
 * OUT5: a variable, or a timer, that comes to a value with which a crossing that was open at first never opens again, though the
 * state that it leaves can still be come to: a count used up, a number that only grows, a flag that is never cleared.
 */
export function usedUp(machine: Machine, skeleton: Skeleton, sealed: ReadonlySet<string>): Finding[] {
  const { slice, situations } = skeleton;
  const all = [...skeleton.exits.values()].flat();
  const found: Finding[] = [];
  for (const [p, digit] of slice.digits.entries()) {
    if (!isVariable(digit.kind) && digit.kind !== 'timer') continue;
    const lasting = lastingValues(skeleton, p);
    if (lasting.length === 0) continue;
    const reading = all.filter((exit) => exit.digits.includes(p));
    const start = present(present(situations[0])[p]);
    const lost = [...new Set(reading.map((exit) => exit.crossing))].flatMap((crossing) => {
      // A crossing of a group leaves several states, and from some of them it may not ask for the digit.
      const exits = all.filter((exit) => exit.crossing === crossing);
      const exit = reading.find(
        (e) => e.crossing === crossing && !sealed.has(present(machine.states[e.leaf]).name),
      );
      const end = exit === undefined ? undefined : lostWith(skeleton, exits, p, lasting);
      if (exit === undefined || end === undefined) return [];
      return [{ exit, end, uses: usesOf(exit, p, { start, end }) }];
    });
    // The crossing that uses it up says most.
    const first = lost.find(({ uses }) => uses !== null) ?? lost[0];
    if (first === undefined) continue;
    const { exit, end, uses } = first;
    found.push(
      createFinding({
        ...ofState(machine, exit.leaf),
        code: 'OUT5',
        crossing: placeOf(machine, exit.crossing),
        path: present((digit.kind === 'timer' ? machine.timers : machine.variables)[digit.index]).path,
        evidence: {
          thing: digit.name,
          start: valueOf(machine, digit, start),
          end: valueOf(machine, digit, end),
          uses,
          to: present(machine.states[exit.crossing.to]).name,
          writers: writersOfThing(machine, digit),
        },
      }),
    );
  }
  return found;
}

/**
 * The lasting value of a digit with which a crossing is closed for good, from whichever state, whatever else is so. Undefined
 * when there is none: when it may open again, when it is another thing that closes it, or when none of its states is
 * come to any more.
 */
function lostWith(
  skeleton: Skeleton,
  exits: readonly Exit[],
  p: number,
  lasting: readonly number[],
): number | undefined {
  const { slice, situations } = skeleton;
  const exitIn = (values: readonly number[]): Exit | undefined =>
    exits.find((exit) =>
      slice.digits.some((d, i) => d.kind === 'leaf' && d.leaves[present(values[i])] === exit.leaf),
    );
  const isOpen = (values: readonly number[]): boolean => {
    const exit = exitIn(values);
    return exit !== undefined && skeleton.isOpen(exit, values);
  };
  const opens = canReach(skeleton, isOpen);
  if (opens[0] === 0) return undefined;
  for (const value of lasting) {
    const places = situations.flatMap((v, i) => (v[p] === value ? [i] : []));
    if (places.some((i) => opens[i] !== 0)) continue;
    const closed = places.map((i) => present(situations[i])).filter((v) => exitIn(v) !== undefined);
    // It must be the digit that closes it: with another value it is open there.
    if (closed.some((v) => isElsewhereOpen(skeleton, isOpen, v, p))) return value;
  }
  return undefined;
}

/** Whether an exit is open in a situation that differs in nothing but a digit. */
function isElsewhereOpen(
  { slice, find }: Skeleton,
  isOpen: (values: readonly number[]) => boolean,
  values: readonly number[],
  p: number,
): boolean {
  return Array.from({ length: present(slice.digits[p]).size }, (_, other) => values.with(p, other)).some(
    (others) => find(others) !== undefined && isOpen(others),
  );
}

/** How often an exit can be taken when nothing but its own effects writes a digit; null when those do not. */
function usesOf(exit: Exit, p: number, { start, end }: { start: number; end: number }): number | null {
  const ops = present(exit.targets[0]).ops.filter((op) => op.digit === p);
  if (ops.length === 0) return null;
  const values: number[] = [];
  values[p] = start;
  for (let uses = 1; uses <= MAX_USES; uses++) {
    for (const { next } of ops) {
      const after = next(values);
      if (after.length !== 1) return null;
      values[p] = present(after[0]);
    }
    if (values[p] === end) return uses;
  }
  return null;
}
