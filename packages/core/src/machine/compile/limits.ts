import { LENGTH, SPEED, TIME } from '../../notation/index.js';
import { type Context, constantAt, ticksAt } from './context.js';
import type { Limits, Machine } from '../definition/machine.js';

/** Compiles `limits`: from where on a run shows a fault. What is left out has a value that sound movesets keep. */
export function compileLimits(context: Context): Limits {
  const limits = context.file.limits ?? {};
  const { flicker, repeats, climbs, momentum, steepGain } = limits;
  return {
    flicker: ticksAt(context, flicker ?? '0.2 s', ['limits', 'flicker'], TIME),
    repeats: repeats ?? 3,
    climbs: climbs ?? 6,
    momentum: constantAt(context, momentum ?? '5 m/s', ['limits', 'momentum'], SPEED, 0),
    steepGain: constantAt(context, steepGain ?? '1 m', ['limits', 'steepGain'], LENGTH, 0),
  };
}

/** The findings that the author accepts. */
export const compileAccepted = ({ file }: Context): Machine['accepted'] =>
  (file.accept ?? []).map(({ finding, because }, i) => ({
    fingerprint: finding,
    reason: because,
    path: ['accept', i],
  }));
