import { exitsOf, type Machine } from '../machine/index.js';
import { type Expression, toTicks } from '../notation/index.js';

/**
 * What to do with the controls for a guard to hold, as far as its terms say: what it asks to be held or let go, and for
 * how long. What the course must give is left to it.
 */
export interface Recipe {
  controls: readonly Setting[];
  /** Ticks for which the guard asks it to last; 0 when it says nothing. */
  ticks: number;
}

/** A recipe with the crossing that it is for. */
export interface CrossingRecipe extends Recipe {
  lane: number;
  crossing: number;
}

/** A control at a value; a press or a release needs it to be otherwise in the tick before. */
export interface Setting {
  control: number;
  value: number;
  isEdge: boolean;
}

/** Recipes of one guard at most: one for each of its alternatives. */
const MAX_RECIPES = 6;

/** The recipes of the ways out of each leaf: none for a guard that asks no control and no time. */
export const recipesOf = (machine: Machine): CrossingRecipe[][] =>
  machine.states.map((state) =>
    state.members.length > 0
      ? []
      : exitsOf(machine, state.index).flatMap(({ crossing: { when, lane, index } }) =>
          when === undefined
            ? []
            : recipes(machine, when, true)
                .filter((r) => r.controls.length > 0 || r.ticks > 0)
                .map((r) => ({ ...r, lane, crossing: index })),
        ),
  );

const NOTHING: Recipe = { controls: [], ticks: 0 };

function recipes(machine: Machine, e: Expression, wanted: boolean): Recipe[] {
  switch (e.kind) {
    case 'not':
      return recipes(machine, e.of, !wanted);
    case 'logic': {
      const parts = e.parts.map((part) => recipes(machine, part, wanted));
      return (e.op === 'and') === wanted ? combined(parts) : parts.flat().slice(0, MAX_RECIPES);
    }
    case 'memory': {
      const inner = recipes(machine, e.of, wanted);
      return wanted && e.mode === 'for'
        ? inner.map((r) => ({ ...r, ticks: Math.max(r.ticks, e.ticks) }))
        : inner;
    }
    case 'fact':
      return [ofFact(machine, e, wanted)];
    case 'compare':
      return [ofComparison(machine, e, wanted)];
    default:
      return [NOTHING];
  }
}

/** All of several things at once, alternative by alternative. */
function combined(parts: readonly Recipe[][]): Recipe[] {
  let results: Recipe[] = [NOTHING];
  for (const list of parts)
    results = results
      .flatMap((a) =>
        list.map((b) => ({ controls: [...a.controls, ...b.controls], ticks: Math.max(a.ticks, b.ticks) })),
      )
      .slice(0, MAX_RECIPES);
  return results;
}

function ofFact(machine: Machine, { ref }: Extract<Expression, { kind: 'fact' }>, wanted: boolean): Recipe {
  const control = machine.controls.findIndex((c) => c.name === ref.of);
  const at = (value: number, isEdge: boolean): Recipe => ({
    controls: [{ control, value, isEdge }],
    ticks: 0,
  });
  switch (ref.fact) {
    case 'held':
      return at(wanted ? 1 : 0, false);
    case 'pressed':
      return wanted ? at(1, true) : NOTHING;
    case 'released':
      return wanted ? at(0, true) : NOTHING;
    case 'done': {
      const timer = machine.timers.find((t) => t.name === ref.of);
      return wanted && timer !== undefined ? { controls: [], ticks: timer.ticks } : NOTHING;
    }
    default:
      return NOTHING;
  }
}

function ofComparison(
  machine: Machine,
  { left, right, op, rate }: Extract<Expression, { kind: 'compare' }>,
  wanted: boolean,
): Recipe {
  if (left.kind !== 'fact' || right.kind !== 'constant') return NOTHING;
  const isMore = (op === '>' || op === '>=') === wanted;
  const { fact, of } = left.ref;
  if (fact === 'axis') {
    const control = machine.controls.findIndex((c) => c.name === of);
    const value = op === '=' && wanted ? right.value : op === '!=' && wanted ? 1 : isMore ? 1 : -1;
    return { controls: [{ control, value: Math.sign(value), isEdge: false }], ticks: 0 };
  }
  const isTime = fact === 'elapsed' || fact === 'laneElapsed' || fact === 'airtime';
  return isTime && isMore && rate !== undefined
    ? { controls: [], ticks: toTicks(right.value, rate) }
    : NOTHING;
}
