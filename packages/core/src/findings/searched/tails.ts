import { present } from '../../present.js';
import type { Machine } from '../../machine/index.js';
import type { Way } from '../../scout/index.js';

/** How long a way is followed further (ticks); and with presses, again and again. */
const TAIL = 80;
const PRESSES = 180;
const PRESS = 2;
const PAUSE = 12;

/**
 * A way with several ends: what was held last goes on being held; everything is let go; each button is held in turn, or
 * pressed again and again, together with the last axes. Many faults show only then.
 */
export function withTails(machine: Machine, { start, inputs }: Way): Way[] {
  const last = inputs[inputs.length - 1] ?? machine.controls.map(() => 0);
  const rest = machine.controls.map(() => 0);
  const axes = last.map((value, c) => (present(machine.controls[c]).kind === 'axis' ? value : 0));
  const buttons = machine.controls.flatMap((c, i) => (c.kind === 'button' ? [i] : []));
  const ends = [last, rest, axes, ...buttons.map((b) => axes.with(b, 1))];
  const steering = machine.controls.findIndex((c) => c.kind === 'axis');
  if (steering >= 0) for (const way of [-1, 1]) ends.push(rest.with(steering, way));
  const presses = buttons.map((b) =>
    Array.from({ length: PRESSES }, (_, t) => (t % (PRESS + PAUSE) < PRESS ? axes.with(b, 1) : axes)),
  );
  return [...ends.map((end) => Array.from({ length: TAIL }, () => end)), ...presses].map((tail) => ({
    start,
    // At rest first: what a run shows in its first tick has nothing before it to be compared with.
    inputs: [rest, rest, ...inputs, ...tail],
  }));
}
