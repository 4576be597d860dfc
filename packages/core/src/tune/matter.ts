import {
  allEffects,
  chainOf,
  type Crossing,
  leavesOf,
  type Machine,
  type Reference,
} from '../machine/index.js';
import type { Path } from '../model/index.js';
import { present } from '../present.js';
import { OF_STATES, type Outcome, type OutcomeKind } from './outcomes.js';
import { GRAVITY, type Turnable } from './turnables.js';

/** What a number acts on: how the body goes up and down, how it goes sideways, or when something happens. */
type Acts = 'up' | 'along' | 'when';

const UP: readonly OutcomeKind[] = [
  'apex',
  'timeToApex',
  'firstHop',
  'secondHop',
  'lowest',
  'longestAirtime',
];
const ALONG: readonly OutcomeKind[] = ['stopping', 'stoppingTime', 'turning', 'turningTime'];

/**
 * The dials that can matter to an outcome of a run that was in some states, found by following references: those in what
 * these states and the crossings out of them say, in the timers and whatever else is named there, and in the dials that
 * these are made from. `states` are those that hold no others, by index.
 */
export function dialsThatMatter(
  machine: Machine,
  turnables: readonly Turnable[],
  states: readonly number[],
  outcome: Outcome,
): Turnable[] {
  const asked = statesAsked(machine, states, outcome);
  const acts: readonly Acts[] = UP.includes(outcome.kind)
    ? ['up', 'when']
    : ALONG.includes(outcome.kind)
      ? ['along', 'when']
      : ['up', 'along', 'when'];
  const places = placesOf(machine, asked);
  const names = new Set<string>(acts.includes('up') && asked.some(isFree(machine)) ? [GRAVITY] : []);
  const effects = allEffects(machine);
  const followed = new Set<string>();
  const queue: Path[] = [...places];
  for (let place = queue.shift(); place !== undefined; place = queue.shift()) {
    for (const reference of machine.references) {
      if (!isAt(reference.path, place)) continue;
      if (!acts.includes(actsOf(reference.path, place, effects))) continue;
      if (reference.kind === 'dial') names.add(reference.name);
      const next = declarationOf(machine, reference);
      const key = next?.join('\n');
      if (next === undefined || key === undefined || followed.has(key)) continue;
      followed.add(key);
      queue.push(next);
    }
  }
  return turnables.filter(({ name }) => names.has(name));
}

/** The states whose words an outcome depends on: of a time or a way in one state, that one. */
function statesAsked(machine: Machine, states: readonly number[], { kind, of }: Outcome): readonly number[] {
  const isOwn = (OF_STATES as readonly OutcomeKind[]).includes(kind) && kind !== 'leftAt';
  return isOwn ? states.filter((state) => present(machine.states[state]).name === of) : states;
}

/** Whether gravity acts in a state: nothing there holds the body's vertical speed. */
const isFree =
  ({ states, plane }: Machine) =>
  (state: number): boolean =>
    plane === 'side' && present(states[state]).motion.hold?.vy === undefined;

/** Where the document speaks of some states: of each and its groups, and of the crossings out of them. */
function placesOf(machine: Machine, states: readonly number[]): Path[] {
  const all = new Set(states.flatMap((state) => chainOf(machine, state)));
  const leaves = (crossing: Crossing): boolean =>
    crossing.from.length === 0 ||
    crossing.from.some((from) => leavesOf(machine, from).some((leaf) => states.includes(leaf)));
  return [
    ...[...all].map((state) => present(machine.states[state]).path),
    ...machine.lanes.flatMap((lane) => lane.crossings.filter(leaves).map(({ path }) => path)),
  ];
}

/** Whether a path lies at a place, but not in a state inside of it, which is a place of its own. */
const isAt = (path: Path, place: Path): boolean =>
  path.length >= place.length &&
  place.every((step, i) => path[i] === step) &&
  path[place.length] !== 'states';

function actsOf(path: Path, place: Path, effects: ReturnType<typeof allEffects>): Acts {
  const [section, rule, part] = path.slice(place.length);
  if (section === 'motion') {
    if (rule === 'gravity' || part === 'vy' || part === 'y' || part === 'toY') return 'up';
    return rule === 'drive' || rule === 'drag' || part === 'vx' || part === 'x' ? 'along' : 'when';
  }
  const effect = effects.find(
    (e) => e.path.length === path.length && e.path.every((step, i) => step === path[i]),
  );
  if (effect?.kind !== 'velocity') return 'when';
  return effect.channel === 'vy' ? 'up' : 'along';
}

/** Where a thing that is referred to is declared, when what is said there can hold a dial. */
function declarationOf(machine: Machine, { kind, name }: Reference): Path | undefined {
  const named = (list: readonly { name: string; path: Path }[]): Path | undefined =>
    list.find((thing) => thing.name === name)?.path;
  switch (kind) {
    case 'dial':
      return name === GRAVITY ? [GRAVITY] : named(machine.dials);
    case 'timer':
      return named(machine.timers);
    case 'cooldown':
      return named(machine.cooldowns);
    case 'variable':
      return named(machine.variables);
    case 'probe':
      return named(machine.probes);
    case 'tether':
      return named(machine.tethers);
    case 'stance':
      return ['body', 'stances', name];
    default:
      return undefined;
  }
}
