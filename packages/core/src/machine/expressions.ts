import type { Expression } from '../notation/index.js';
import type { Effect, Machine, Motion } from './definition.js';

/** Every expression of a machine that can be read while it runs, those inside memories by way of the memories. */
export function allExpressions(machine: Machine): Expression[] {
  const list: (Expression | undefined)[] = [
    ...machine.memories.map((m) => m.of),
    ...machine.timers.map((t) => t.runs),
    ...machine.variables.map((v) => v.refill),
    ...machine.cooldowns.map((c) => c.refill),
    ...machine.lanes.flatMap((lane) => lane.crossings.flatMap((c) => [c.when, ...inEffects(c.do)])),
    ...machine.states.flatMap((state) => [
      ...inEffects([...state.enter, ...state.exit, ...state.each]),
      ...inMotion(state.motion),
    ]),
  ];
  return list.filter((e) => e !== undefined);
}

const inEffects = (effects: readonly Effect[]): Expression[] =>
  effects.flatMap((e) => (e.kind === 'velocity' || e.kind === 'variable' ? [e.value] : []));

function inMotion({ drive, gravity, hold, push, drag, ground, tether }: Motion): (Expression | undefined)[] {
  const sideways = tether?.sideways;
  return [
    drive?.to,
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
    hold?.vx,
    hold?.vy,
    push?.x,
    push?.y,
    push?.downhill,
    drag,
    ground?.slip,
    tether?.reel,
    tether?.climb,
    sideways !== undefined && 'length' in sideways ? sideways.length : undefined,
  ];
}
