import type { Machine } from '../../machine/index.js';
import type { Way } from '../../scout/index.js';

/** How long a way is followed further (ticks). */
const TAIL = 80;

/**
 * A way with several ends: what was held last goes on being held; everything is let go; each button is held in turn,
 * alone and together with the last axes. Many faults show only then.
 */
export function withTails(machine: Machine, { start, inputs }: Way): Way[] {
  const last = inputs[inputs.length - 1] ?? machine.controls.map(() => 0);
  const rest = machine.controls.map(() => 0);
  const axes = last.map((value, c) => (machine.controls[c]!.kind === 'axis' ? value : 0));
  const buttons = machine.controls.flatMap((c, i) => (c.kind === 'button' ? [i] : []));
  const ends = [last, rest, axes, ...buttons.map((b) => axes.with(b, 1))];
  const steering = machine.controls.findIndex((c) => c.kind === 'axis');
  if (steering >= 0) for (const way of [-1, 1]) ends.push(rest.with(steering, way));
  return ends.map((end) => ({ start, inputs: [...inputs, ...Array.from({ length: TAIL }, () => end)] }));
}
