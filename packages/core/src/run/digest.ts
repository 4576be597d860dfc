import { present } from '../present.js';
import { createFast, type Machine, place, startFast, step } from '../machine/index.js';
import type { World } from '../world/index.js';
import type { Trace } from './trace.js';

/**
 * A digest of a run: 16 hexadecimal digits made of every bit of what it recorded of the body, the lanes, the variables
 * and the clocks. Two runs that differ in a single bit of a single tick have, but for one chance in 2⁶⁴, other digests.
 */
export function digestOf(trace: Trace): string {
  const digest = createDigest();
  for (const { body, facing, stance, leaves, variables, timers, charges } of trace.records) {
    for (const value of [body.x, body.y, body.vx, body.vy, facing, stance]) digest.add(value);
    for (const list of [leaves, variables, timers, charges]) for (const value of list) digest.add(value);
  }
  return digest.text();
}

/**
 * The digest of the same run on the fast machine: another way to the same bits.
 * @throws {EvalError} where a content security policy forbids making code from text
 */
export function fastDigest(
  machine: Machine,
  world: World,
  at: { x: number; y: number; facing: 1 | -1 },
  inputs: readonly (readonly number[])[],
): string {
  const digest = createDigest();
  const fast = createFast(machine, world);
  const s = startFast(fast, at);
  const { leaves, variables, timers, charges } = fast.layout;
  const lists: [number, number][] = [
    [leaves, machine.lanes.length],
    [variables, machine.variables.length],
    [timers, machine.timers.length],
    [charges, machine.cooldowns.length],
  ];
  for (const input of inputs) {
    step(fast, s, input);
    for (const i of [place.X, place.Y, place.VX, place.VY, place.FACING, place.STANCE])
      digest.add(present(s[i]));
    for (const [from, count] of lists) for (let i = 0; i < count; i++) digest.add(present(s[from + i]));
  }
  return digest.text();
}

/** Two running 32-bit hashes (FNV-1a over words, with other starts and primes) over the bits of doubles. */
function createDigest(): { add(value: number): void; text(): string } {
  const bits = new DataView(new ArrayBuffer(8));
  let a = 0x811c9dc5;
  let b = 0x9e3779b9;
  return {
    add(value) {
      // Zero has two signs, which mean the same.
      bits.setFloat64(0, value === 0 ? 0 : value);
      for (const word of [bits.getUint32(0), bits.getUint32(4)]) {
        a = Math.imul(a ^ word, 0x01000193);
        b = Math.imul(b ^ word ^ (a >>> 15), 0x85ebca6b);
      }
    },
    text: () => [a, b].map((n) => (n >>> 0).toString(16).padStart(8, '0')).join(''),
  };
}
