import { witnessTape } from '@glenmark/core/findings';
import {
  type Beyond,
  beyondReach,
  createReaching,
  type Pit,
  type Raster,
  type Reaching,
  withoutAbility,
} from '@glenmark/core/reach';
import type { Box } from '@glenmark/core/scout';
import type { Steps } from '@glenmark/core/steps';
import { courseReadings, movesetReadings } from './readings';

/** What is looked for: where the body gets to on a course, with and without an ability, and whether it gets to a place. */
export interface ReachAsked {
  moveset: string;
  course: string;
  seed: number;
  without: string | undefined;
  toward: Box | undefined;
}

/** How far a search is. */
export interface ReachStanding {
  situations: number;
  raster: Raster;
  /** Where the body gets to without the ability; undefined when none was left out. */
  without: Raster | undefined;
  /** How near the place to come to was come (m). */
  nearest: number | undefined;
  /** What proves that it is never come to. */
  beyond: Beyond | undefined;
  /** Where the body rests in places that it gets into and not out of, and how soon it is there; undefined until they are known. */
  pits: { squares: readonly Box[]; ticks: number }[] | undefined;
  isOver: boolean;
}

/** A search that goes on from call to call, by the same seed with and without an ability. */
export interface ReachWork {
  standing(): ReachStanding;
  /** Goes on to so many situations; with an ability left out, so many without it, too. */
  advance(situations: number): Steps<void>;
  /** The tape of the soonest way known to a point, and to the nearest to the place to come to. */
  tapeTo(x: number, y: number): string | undefined;
  tapeToNearest(): string | undefined;
  tapeToPit(pit: number): string | undefined;
}

/** Prepares a search; undefined when one of the texts does not load. */
export function createReachWork(asked: ReachAsked): ReachWork | undefined {
  const { machine } = movesetReadings.of(asked.moveset);
  const { course } = courseReadings.of(asked.course);
  if (machine === undefined || course === undefined) return undefined;
  const { seed, toward } = asked;
  const begun = { seed, ...(toward === undefined ? {} : { toward }) };
  const own = createReaching(machine, course, begun);
  const left = asked.without === undefined ? undefined : withoutAbility(machine, course, asked.without);
  const without = left && createReaching(left.machine, left.course, begun);
  const beyond = toward && beyondReach(machine, course, toward);
  let pits: Pit[] | undefined;
  let isOver = false;

  function* advanced(reaching: Reaching, situations: number): Steps<void> {
    yield* reaching.advance(situations);
    yield* reaching.fill();
  }

  const tapeOf = (way: Parameters<typeof witnessTape>[1], note: string): string => {
    const name = $localize`Way to ${note}`;
    return witnessTape(own.scout, way, name, name, way.inputs.length - 1);
  };

  return {
    standing: () => ({
      situations: own.scout.progress().situations,
      raster: own.raster,
      without: without?.raster,
      nearest: own.scout.nearest()?.distance,
      beyond,
      pits: pits?.map(({ squares, way }) => ({ squares, ticks: way.inputs.length })),
      isOver,
    }),
    *advance(situations) {
      isOver = false;
      pits = undefined;
      yield* advanced(own, situations);
      if (without !== undefined) {
        yield* advanced(without, situations);
        // A way that was found with the ability and does not need it leads there without it, and the other way round.
        yield* without.follow(own.ways());
        yield* own.follow(without.ways());
      }
      pits = yield* own.pits();
      isOver = true;
    },
    tapeTo(x, y) {
      const way = own.wayTo(x, y);
      return way === undefined || way.inputs.length === 0
        ? undefined
        : tapeOf(way, `x ${x.toFixed(2)} m, y ${y.toFixed(2)} m`);
    },
    tapeToNearest() {
      const nearest = own.scout.nearest();
      return nearest === undefined || nearest.way.inputs.length === 0
        ? undefined
        : tapeOf(nearest.way, $localize`the goal`);
    },
    tapeToPit(pit) {
      const way = pits?.[pit]?.way;
      return way === undefined || way.inputs.length === 0 ? undefined : tapeOf(way, $localize`a pit`);
    },
  };
}
