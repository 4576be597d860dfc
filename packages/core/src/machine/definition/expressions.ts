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

/** Every expression in a motion, wherever it stands. */
export function expressionsInMotion(motion: Motion): Expression[] {
  const { drive, gravity, hold, push, drag, ground, tether } = motion;
  const sideways = tether?.sideways;
  return [
    ...steersIn(motion),
    drive?.toY,
    drive?.gain,
    drive?.brake,
    drive?.turn,
    drive?.carry?.above,
    drive?.carry?.fade,
    drive?.carry?.slope,
    gravity?.rising,
    gravity?.falling,
    gravity?.cut?.scale,
    gravity?.cut?.when,
    gravity?.terminal,
    hold?.vy,
    push?.y,
    push?.downhill,
    drag,
    ground?.slip,
    tether?.reel,
    tether?.climb,
    sideways !== undefined && 'length' in sideways ? sideways.length : undefined,
  ].filter((e) => e !== undefined);
}

/** What moves the body sideways in a motion. */
export const steersIn = ({ drive, hold, push }: Motion): Expression[] =>
  [drive?.to, hold?.vx, push?.x].filter((e) => e !== undefined);

/** Every effect of a moveset. */
export const allEffects = ({ states, lanes }: Pick<Machine, 'states' | 'lanes'>): Effect[] => [
  ...states.flatMap((s) => [...s.enter, ...s.exit, ...s.each]),
  ...lanes.flatMap((lane) => lane.crossings.flatMap((c) => c.do)),
];
