import { type Fast, place } from '../machine/index.js';

/** The two halves of a situation's key; filled by the function that `keyOf` makes. */
export interface Key {
  high: number;
  low: number;
}

/** Ticks in one bucket of a running clock, and of the time in a state. */
const CLOCK_BUCKET = 6;
const ELAPSED_BUCKETS = 4;

/**
 * The key of a situation: two situations of one key count as one to the scout. Exact in what is discrete; the place by
 * cells of a quarter of the body's width, the velocity by bands that grow, clocks by buckets of a few ticks.
 */
export function keyOf(fast: Fast): (s: Float64Array, key: Key) => void {
  const { machine, layout, world } = fast;
  const widths = machine.stances.flatMap((stance) => stance.parts.map((part) => part.width));
  const cell = Math.max(0.05, Math.min(...widths) / 4);
  const exact = [
    ...range(layout.leaves, machine.lanes.length),
    ...machine.variables.flatMap((v, i) => (v.kind === 'number' ? [] : [layout.variables + i])),
    ...range(layout.charges, machine.cooldowns.length),
    ...range(layout.unlocked, machine.abilities.length),
    ...range(layout.events, machine.events.length),
    ...range(layout.zones, world.course.zones.length),
    ...machine.tethers.map((_, i) => layout.anchors[i]!),
    place.FACING,
    place.STANCE,
    place.GROUND,
    place.STEEP,
    place.WALL,
    place.CEILING,
  ];
  const numbers = machine.variables.flatMap((v, i) => (v.kind === 'number' ? [layout.variables + i] : []));
  const buttons = machine.controls.flatMap((c, i) => (c.kind === 'button' ? [layout.input + i] : []));
  const { lanes, timers } = machine;
  const movers = world.course.movers.map((m) => m.period / machine.dt);
  // Everything the key is made of, as whole numbers; then one loop over it.
  const values = new Int32Array(
    exact.length + numbers.length + timers.length + lanes.length + movers.length + 5,
  );
  return (s, key) => {
    let n = 0;
    for (let i = 0; i < exact.length; i++) values[n++] = s[exact[i]!]!;
    values[n++] = Math.floor(s[place.X]! / cell);
    values[n++] = Math.floor(s[place.Y]! / cell);
    values[n++] = band(s[place.VX]!);
    values[n++] = band(s[place.VY]!);
    for (let i = 0; i < numbers.length; i++) values[n++] = band(s[numbers[i]!]!);
    for (let i = 0; i < timers.length; i++) {
      const left = s[layout.timers + i]!;
      values[n++] = left <= 0 ? left : 1 + left / CLOCK_BUCKET;
    }
    const tick = s[place.TICK]!;
    for (let i = 0; i < lanes.length; i++) {
      const elapsed = tick - s[layout.entered + s[layout.leaves + i]!]!;
      values[n++] = Math.min(ELAPSED_BUCKETS, elapsed / CLOCK_BUCKET);
    }
    let held = 0;
    for (let i = 0; i < buttons.length; i++) held = 2 * held + (s[buttons[i]!]! !== 0 ? 1 : 0);
    values[n++] = held;
    for (let i = 0; i < movers.length; i++) values[n++] = ((tick / movers[i]!) % 1) * 8;
    let a = 0x811c9dc5;
    let b = 0x9e3779b9;
    for (let i = 0; i < n; i++) {
      a = Math.imul(a ^ values[i]!, 0x01000193);
      a ^= a >>> 13;
      b = Math.imul(b ^ values[i]! ^ (a >>> 15), 0x85ebca6b);
    }
    key.high = a >>> 0;
    key.low = b >>> 0;
  };
}

const range = (from: number, count: number): number[] => Array.from({ length: count }, (_, i) => from + i);

/** Bands of a number: about ±0.4, ±1, ±2, ±4, … apart, with the sign. */
function band(value: number): number {
  // ⌊2 · log₂(1 + |value|)⌋, by counting bits.
  const square = (1 + Math.abs(value)) ** 2;
  const size = 31 - Math.clz32(Math.min(square, 2 ** 31));
  return value < 0 ? -1 - size : size;
}
