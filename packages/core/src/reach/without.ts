import type { Effect, Machine } from '../machine/index.js';
import type { Course } from '../world/index.js';

/**
 * A machine and a course in which an ability is locked from the beginning and nothing unlocks it: what can be done without
 * it.
 * @throws {RangeError} for an ability that the machine does not have
 */
export function withoutAbility(
  machine: Machine,
  course: Course,
  name: string,
): { machine: Machine; course: Course } {
  const ability = machine.abilities.findIndex((a) => a.name === name);
  if (ability < 0) throw new RangeError(`no ability is called '${name}'`);
  const kept = (effects: Effect[]): Effect[] =>
    effects.filter((effect) => effect.kind !== 'unlock' || effect.ability !== ability);
  return {
    machine: {
      ...machine,
      abilities: machine.abilities.map((a, i) => (i === ability ? { ...a, locked: true } : a)),
      states: machine.states.map((state) => ({
        ...state,
        enter: kept(state.enter),
        exit: kept(state.exit),
        each: kept(state.each),
      })),
      lanes: machine.lanes.map((lane) => ({
        ...lane,
        crossings: lane.crossings.map((crossing) => ({ ...crossing, do: kept(crossing.do) })),
      })),
    },
    course: {
      ...course,
      zones: course.zones.map((zone) => (zone.unlocks === name ? { ...zone, unlocks: undefined } : zone)),
    },
  };
}
