import { chainOf, type Effect, exitsOf, type Machine, type Motion } from '../machine/index.js';
import { type Expression, factsIn } from '../notation/index.js';

/** How long a move may hold its controls, in ticks. */
const HOLDS = [1, 2, 4, 8, 16];

/** Directions that an aim is tried in (degrees). */
const AIMS = [0, 45, 90, 135, 180, -135, -90, -45];

/** The controls that matter in each leaf, by their places: what its ways out, its effects and its motion read. */
export function controlsOf(machine: Machine): number[][] {
  const shared = machine.variables
    .map((v) => v.refill)
    .concat(
      machine.timers.map((t) => t.runs),
      machine.cooldowns.map((c) => c.refill),
    );
  return machine.states.map((state) => {
    if (state.members.length > 0) return [];
    const chain = chainOf(machine, state.index);
    const exits = exitsOf(machine, state.index);
    const expressions = [
      ...shared,
      ...exits.map(({ crossing }) => crossing.when),
      ...expressionsIn(state.motion),
      ...chain.flatMap((s) => valuesOf(machine.states[s]!.each)),
      ...exits.flatMap(({ crossing }) => [
        ...valuesOf(crossing.do),
        ...valuesOf(chainOf(machine, crossing.to).flatMap((s) => machine.states[s]!.enter)),
      ]),
    ];
    const keys = expressions.flatMap((e) => (e === undefined ? [] : factsIn(e)));
    const faced = [...chain.flatMap((s) => machine.states[s]!.each), ...exits.flatMap((e) => e.crossing.do)];
    const slots = faced.flatMap((e) => (e.kind === 'face' && e.way === 'axis' ? [e.slot] : []));
    keys.push(...slots.map((slot) => machine.facts.keys[slot]!));
    const steering = machine.controls.findIndex((c) => c.kind === 'axis');
    const found = new Set<number>();
    for (const key of keys) {
      const name = /^(?:held|pressed|released|axis|aim|aimx|aimy)\((\w+)\)$/.exec(key)?.[1];
      if (name !== undefined) found.add(machine.controls.findIndex((c) => c.name === name));
      if (key === 'pushing' && steering >= 0) found.add(steering);
    }
    return [...found].filter((c) => isBound(machine, c)).sort((a, b) => a - b);
  });
}

/** A control that nothing drives cannot be moved by anybody. */
function isBound(machine: Machine, control: number): boolean {
  const { kind, keys, negative, positive, pad } = machine.controls[control]!;
  return kind === 'aim' || keys.length + negative.length + positive.length + pad.length > 0;
}

const valuesOf = (effects: readonly Effect[]): Expression[] =>
  effects.flatMap((e) => (e.kind === 'velocity' || e.kind === 'variable' ? [e.value] : []));

/** Every expression in a motion, wherever it stands. */
function expressionsIn(motion: Motion): Expression[] {
  const found: Expression[] = [];
  const look = (thing: unknown): void => {
    if (typeof thing !== 'object' || thing === null) return;
    if ('syntax' in thing && 'dimension' in thing) found.push(thing as Expression);
    else Object.values(thing).forEach(look);
  };
  look(motion);
  return found;
}

/**
 * Draws a move: fills `input` with what the controls are held at, and gives for how many ticks. Mostly a small change
 * to what is held now, sometimes anything; controls that do not matter are let go.
 */
export function drawMove(
  machine: Machine,
  matter: readonly number[],
  before: ArrayLike<number>,
  input: Float64Array,
  random: (below: number) => number,
): number {
  input.fill(0);
  const anything = random(4) === 0;
  const changed = matter.length === 0 ? -1 : matter[random(matter.length)]!;
  for (const control of matter) {
    const { kind } = machine.controls[control]!;
    const old = before[control]!;
    const isChanged = anything || control === changed;
    if (kind === 'button') input[control] = isChanged ? (anything ? random(2) : old === 0 ? 1 : 0) : old;
    else if (kind === 'axis') input[control] = isChanged ? random(3) - 1 : old;
    else input[control] = isChanged ? AIMS[random(AIMS.length)]! : old;
  }
  return HOLDS[random(HOLDS.length)]!;
}
