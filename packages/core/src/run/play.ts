import { present } from '../present.js';
import type { Machine, Situation } from '../machine/index.js';
import type { World } from '../world/index.js';
import { createPlayer } from './player.js';
import type { Trace } from './trace.js';

/** Where a run begins: the feet, in metres, and where the body faces. */
export interface Place {
  x: number;
  y: number;
  facing: 1 | -1;
}

/** A situation is saved every so many ticks: a run goes on from the last one before what changed. */
const EVERY = 60;

/** Plays inputs from a place and records every tick. Stops, with a reason, when the body leaves the course. */
export const play = (
  machine: Machine,
  world: World,
  at: Place,
  inputs: readonly (readonly number[])[],
): Trace => playOn(machine, world, at, inputs).trace;

/** A run with what it takes to go on from the middle of it. */
export interface KeptRun {
  world: World;
  at: Place;
  trace: Trace;
  inputs: readonly (readonly number[])[];
  /** The facts after each tick, when they were asked for. */
  seen: Float64Array[] | undefined;
  /** The situations before ticks 0, 60, 120 and so on. */
  saves: Situation[];
  /** How many records at the beginning are those of the run that it went on from. */
  same: number;
}

/**
 * Plays inputs from a place and records every tick; what is the same as in a kept run is taken from there. That one
 * must have been played by the same machine in the same world from the same place. `sees` keeps the facts after each
 * tick too, for expectations.
 */
export function playOn(
  machine: Machine,
  world: World,
  at: Place,
  inputs: readonly (readonly number[])[],
  { sees = false, kept }: { sees?: boolean; kept?: KeptRun | undefined } = {},
): KeptRun {
  const usable = kept !== undefined && (!sees || kept.seen !== undefined) ? kept : undefined;
  const alike = usable === undefined ? 0 : ticksAlike(usable, inputs);
  const isWhole =
    alike === inputs.length || (usable?.trace.stopped !== undefined && alike === usable.trace.records.length);
  const save = Math.min(Math.floor(alike / EVERY), (usable?.saves.length ?? 1) - 1);
  const same = isWhole ? alike : save * EVERY;
  const run: KeptRun = {
    world,
    at,
    inputs,
    same,
    trace: {
      machine,
      start: { x: at.x, y: at.y },
      records: usable?.trace.records.slice(0, same) ?? [],
      stopped: undefined,
    },
    seen: sees ? (usable?.seen?.slice(0, same) ?? []) : undefined,
    saves: usable?.saves.slice(0, Math.ceil(same / EVERY)) ?? [],
  };
  if (isWhole && usable !== undefined) {
    run.trace.stopped = alike < usable.trace.records.length ? undefined : usable.trace.stopped;
    return run;
  }
  const from = usable?.saves[save];
  const player = createPlayer(machine, world, at, {
    ...(from === undefined ? {} : { from }),
    ...(sees ? { observe: (_tick, facts) => present(run.seen).push(facts.slice()) } : {}),
  });
  for (const input of inputs.slice(same)) {
    if (player.situation.tick % EVERY === 0) run.saves.push(structuredClone(player.situation));
    const record = player.step(input);
    run.trace.records.push(record);
    if (player.hasLeft()) {
      run.trace.stopped = `the body left the course at tick ${record.tick}`;
      break;
    }
  }
  return run;
}

/** How many ticks at the beginning were played under the same inputs. */
function ticksAlike(kept: KeptRun, inputs: readonly (readonly number[])[]): number {
  const length = Math.min(kept.trace.records.length, inputs.length);
  let tick = 0;
  while (tick < length && present(inputs[tick]).every((value, c) => value === present(kept.inputs[tick])[c]))
    tick++;
  return tick;
}
