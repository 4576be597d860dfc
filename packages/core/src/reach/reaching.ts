import { type Machine, place, startFast, step } from '../machine/index.js';
import { present } from '../present.js';
import { type Box, createScout, type Scout, type Way } from '../scout/index.js';
import type { Steps } from '../steps.js';
import type { Course } from '../world/index.js';
import { findPits, type Pit } from './pits.js';
import { createStands, watchStands } from './stands.js';
import { cellAt, createRaster, markCell, type Raster } from './raster.js';

/** A scouting that notes wherever the body gets to. */
export interface Reaching {
  scout: Scout;
  /** Every cell that a situation was kept in, and after `fill` every one that the ways there pass through. */
  raster: Raster;
  /** Goes on until so many situations were seen, or nothing is left to try. In steps of a round each. */
  advance(situations: number): Steps<void>;
  /** Plays the ways to all cells once more, so that what they pass through is told of, too. In steps of a way each. */
  fill(): Steps<void>;
  /** The ways to all cells. */
  ways(): Way[];
  /** Plays ways of another search from the same spawns: wherever they lead counts here, too. In steps of a way each. */
  follow(ways: readonly Way[]): Steps<void>;
  /** The places that the body gets into and, as far as was searched, never out of. In steps of a round each. */
  pits(): Steps<Pit[]>;
  /** The soonest way known to the cell of a point; undefined for one that was never reached. */
  wayTo(x: number, y: number): Way | undefined;
}

/** How a cell was come to: so many ticks of a way. */
interface Come {
  way: () => Way;
  ticks: number;
}

/** Begins to scout a course for where the body gets to, from its spawns; the same seed gives the same. */
export function createReaching(
  machine: Machine,
  course: Course,
  { seed, toward }: { seed: number; toward?: Box },
): Reaching {
  const scout = createScout(machine, course, { seed, ...(toward === undefined ? {} : { toward }) });
  const { fast, starts } = scout;
  const raster = createRaster(course);
  const come = new Map<number, Come>();
  const see = (s: Float64Array, way: () => Way): void => {
    const cell = cellAt(raster, present(s[place.X]), present(s[place.Y]));
    const ticks = present(s[place.TICK]);
    const state = present(s[fast.layout.leaves]);
    if (markCell(raster, cell, ticks, state)) come.set(cell, { way, ticks });
  };
  const stands = createStands(fast);
  watchStands(scout, stands);
  scout.watch((s, { wayThere }) => see(s, wayThere));

  const ways = (): Way[] =>
    [...come.values()].map(({ way, ticks }) => {
      const { start, inputs } = way();
      return { start, inputs: inputs.slice(0, ticks) };
    });

  function* follow(list: readonly Way[]): Steps<void> {
    for (const way of list) {
      const s = startFast(fast, present(starts[way.start]));
      for (const input of way.inputs) {
        step(fast, s, input);
        see(s, () => way);
      }
      yield;
    }
  }

  return {
    scout,
    raster,
    *advance(situations) {
      for (;;) {
        const { situations: before, expanded } = scout.progress();
        if (before >= situations) return;
        scout.round();
        if (scout.progress().expanded === expanded) return;
        yield;
      }
    },
    fill: () => follow(ways()),
    ways,
    follow,
    pits: () => findPits(scout, stands, seed),
    wayTo(x, y) {
      const known = come.get(cellAt(raster, x, y));
      if (known === undefined) return undefined;
      const { start, inputs } = known.way();
      return { start, inputs: inputs.slice(0, known.ticks) };
    },
  };
}
