import { type Fast, place } from '../machine/index.js';

/** Writes the key of a situation, its high and its low half, to two places of a list. */
export type WriteKey = (s: Float64Array, keys: Uint32Array, at: number) => void;

/** Ticks in one bucket of a running clock, and of the time in a state. */
const CLOCK_BUCKET = 6;
const ELAPSED_BUCKETS = 4;
/** Buttons in one whole number of the key. */
const BITS = 31;

/**
 * The key of a situation: two situations of one key count as one to the scout. Exact in what is discrete; the place by
 * cells of a quarter of the body's width, the velocity by bands that grow, clocks by buckets of a few ticks. It is
 * printed as code for the machine, as the tick is: a key is asked for after every tick.
 */
export function keyOf(fast: Fast): WriteKey {
  const lines = valuesOf(fast).map(
    (value) =>
      `v = ${value}; a = Math.imul(a ^ v, 0x01000193); a ^= a >>> 13; b = Math.imul(b ^ v ^ (a >>> 15), 0x85ebca6b);`,
  );
  const source = `'use strict';
return (s, keys, at) => {
let a = 0x811c9dc5, b = 0x9e3779b9, v = 0;
${lines.join('\n')}
keys[at] = a;
keys[at + 1] = b;
};`;
  // The text is made of places and lengths only.
  return (new Function('band', source) as (b: typeof band) => WriteKey)(band);
}

/** Everything that a key is made of, as source text for whole numbers of 32 bits. */
function valuesOf({ machine, layout, world }: Fast): string[] {
  const widths = machine.stances.flatMap((stance) => stance.parts.map((part) => part.width));
  const cell = Math.max(0.05, Math.min(...widths) / 4);
  const at = (i: number): string => `s[${i}]`;
  const bands = (i: number): string => `band(${at(i)})`;
  const placesOf = (isNumber: boolean): number[] =>
    machine.variables.flatMap((v, i) => ((v.kind === 'number') === isNumber ? [layout.variables + i] : []));
  const exact = [
    ...range(layout.leaves, machine.lanes.length),
    ...placesOf(false),
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
  const timers = range(layout.timers, machine.timers.length).map(
    (i) => `(${at(i)} <= 0 ? ${at(i)} : 1 + ${at(i)} / ${CLOCK_BUCKET}) | 0`,
  );
  const elapsed = range(layout.leaves, machine.lanes.length).map(
    (i) =>
      `Math.min(${ELAPSED_BUCKETS}, (${at(place.TICK)} - s[${layout.entered} + ${at(i)}]) / ${CLOCK_BUCKET}) | 0`,
  );
  const buttons = machine.controls.flatMap((c, i) => (c.kind === 'button' ? [layout.input + i] : []));
  const held = range(0, Math.ceil(buttons.length / BITS)).map((word) =>
    buttons
      .slice(word * BITS, (word + 1) * BITS)
      .map((i, bit) => `(${at(i)} !== 0 ? ${2 ** bit} : 0)`)
      .join(' | '),
  );
  const movers = world.course.movers.map(
    ({ period }) => `((${at(place.TICK)} / ${period / machine.dt}) % 1) * 8 | 0`,
  );
  return [
    ...exact.map((i) => `${at(i)} | 0`),
    ...[place.X, place.Y].map((i) => `Math.floor(${at(i)} / ${cell}) | 0`),
    ...[place.VX, place.VY, ...placesOf(true)].map(bands),
    ...timers,
    ...elapsed,
    ...held,
    ...movers,
  ];
}

const range = (from: number, count: number): number[] => Array.from({ length: count }, (_, i) => from + i);

/** Bands of a number: about ±0.4, ±1, ±2, ±4, … apart, with the sign. */
function band(value: number): number {
  // ⌊2 · log₂(1 + |value|)⌋, by counting bits.
  const square = (1 + Math.abs(value)) ** 2;
  const size = 31 - Math.clz32(Math.min(square, 2 ** 31));
  return value < 0 ? -1 - size : size;
}
