import { present } from '../../present.js';
import { type Crossing, type Machine, startFast, step } from '../../machine/index.js';
import { playRhythm, recipesOf, type Rhythm, rhythmsOf, type Scout, type Way } from '../../scout/index.js';
import { lifts } from '../witnessed/moving.js';
import { sourcesOf, targetsOf } from '../proved/guard.js';

/** How long a rhythm is followed (ticks), and how many new situations it must bring to be worth it. */
const LENGTH = 320;
const WORTH = 20;

/** After so many tries of a sort of rhythm that were not worth it, no more of it is tried. */
const PATIENCE = 12;

/** One in so many situations may come from rhythms: the others are found by moves. */
const SHARE = 4;

/** A rhythm to follow from the end of a way. */
interface Plan {
  way: Way;
  rhythm: Rhythm;
  /** What is counted together: the same way of steering, for one crossing or for all launches. */
  sort: string;
}

/** A search by rhythms beside the one by moves. */
export interface Rhythms {
  /** The ways that were followed since this was asked last, in order. */
  takeWays(): Way[];
  /** Follows the next rhythm, if there is one and it is its turn: to be called once a round. */
  goOn(): void;
}

/**
 * Follows rhythms of the model from where each crossing was first taken: that crossing again and again, and, for a
 * launch, all of them; launches and going from side to side come first. Sorts that bring nothing new are left out before
 * long. What comes of it depends on the search alone, not on when somebody looks.
 */
export function createRhythms(scout: Scout): Rhythms {
  const { machine, fast } = scout;
  const recipes = recipesOf(machine);
  const hasRecipe = ({ lane, index }: Crossing): boolean =>
    recipes.some((list) => list.some((r) => r.lane === lane && r.crossing === index));
  const launches = machine.lanes.flatMap((lane) =>
    lane.crossings
      .filter((crossing) => hasRecipe(crossing) && isLaunch(machine, crossing))
      .map(({ index }) => ({ lane: lane.index, crossing: index })),
  );
  const ways: Way[] = [];
  /** What is to be followed, by how promising it is. */
  const plans: (Plan[] | undefined)[] = [];
  const unpaid = new Map<string, number>();
  let seen = 0;
  let brought = 0;
  const add = (name: string, crossings: Rhythm['crossings'], way: Way, rank: number): void =>
    rhythmsOf(machine, crossings).forEach((rhythm, i) =>
      (plans[3 * i + rank] ??= []).push({ way, rhythm, sort: `${name} ${i}` }),
    );
  const isWorthIt = ({ sort }: Plan): boolean => (unpaid.get(sort) ?? 0) < PATIENCE;
  const next = (): Plan | undefined => {
    for (const list of plans)
      for (let plan = list?.shift(); plan !== undefined; plan = list?.shift())
        if (isWorthIt(plan)) return plan;
    return undefined;
  };
  const plan = (): void => {
    for (const { event, way } of scout.sightingsFrom(seen)) {
      seen++;
      if (event.kind !== 'taken') continue;
      const { lane, crossing } = event;
      if (!hasRecipe(present(present(machine.lanes[lane]).crossings[crossing]))) continue;
      const throws = launches.some((l) => l.lane === lane && l.crossing === crossing);
      if (throws && launches.length > 1) add('launches', launches, way, 0);
      add('one', [{ lane, crossing }], way, throws ? 1 : 2);
    }
  };
  return {
    takeWays: () => ways.splice(0),
    goOn() {
      plan();
      if (SHARE * brought > scout.progress().situations) return;
      const chosen = next();
      if (chosen === undefined) return;
      const { way, rhythm, sort } = chosen;
      const s = startFast(fast, present(scout.starts[way.start]));
      for (const input of way.inputs) step(fast, s, input);
      const inputs = [...way.inputs, ...playRhythm(fast, s, rhythm, { recipes, ticks: LENGTH })];
      const further = { start: way.start, inputs };
      const news = scout.sow(further);
      brought += news;
      unpaid.set(sort, news >= WORTH ? 0 : (unpaid.get(sort) ?? 0) + 1);
      ways.push(further);
    },
  };
}

/** Whether taking a crossing may throw the body up. */
const isLaunch = (machine: Machine, crossing: Crossing): boolean =>
  sourcesOf(machine, crossing).some((from) =>
    targetsOf(machine, crossing).some((to) => lifts(machine, { lane: crossing.lane, crossing, from, to })),
  );
