import type { Expression } from '../../notation/index.js';
import type { Effect, Machine, Motion } from './machine.js';

/** Every expression of a machine that can be read while it runs, those inside memories by way of the memories. */
export function allExpressions(machine: Machine): Expression[] {
  const list: (Expression | undefined)[] = [
    ...machine.memories.map((m) => m.of),
    ...machine.timers.map((t) => t.runs),
    ...machine.variables.map((v) => v.refill),
    ...machine.cooldowns.map((c) => c.refill),
    ...machine.lanes.flatMap((lane) => lane.crossings.flatMap((c) => [c.when, ...valuesOf(c.do)])),
    ...machine.states.flatMap((state) => [
      ...valuesOf([...state.enter, ...state.exit, ...state.each]),
      ...expressionsInMotion(state.motion),
    ]),
  ];
  return list.filter((e) => e !== undefined);
}

/** What effects write. */
export const valuesOf = (effects: readonly Effect[]): Expression[] =>
  effects.flatMap((e) => (e.kind === 'velocity' || e.kind === 'variable' ? [e.value] : []));

/** Every expression in a motion, wherever it stands: a field that is added to motions cannot be left out here. */
export const expressionsInMotion = (motion: Motion): Expression[] => expressionsIn(motion);

function expressionsIn(value: unknown): Expression[] {
  if (typeof value !== 'object' || value === null) return [];
  return isExpression(value) ? [value] : Object.values(value).flatMap(expressionsIn);
}

const isExpression = (value: object): value is Expression => 'syntax' in value && 'dimension' in value;

/** What moves the body sideways in a motion. */
export const steersIn = ({ drive, hold, push }: Motion): Expression[] =>
  [drive?.to, hold?.vx, push?.x].filter((e) => e !== undefined);

/** Every effect of a moveset. */
export const allEffects = ({ states, lanes }: Pick<Machine, 'states' | 'lanes'>): Effect[] => [
  ...states.flatMap((s) => [...s.enter, ...s.exit, ...s.each]),
  ...lanes.flatMap((lane) => lane.crossings.flatMap((c) => c.do)),
];
