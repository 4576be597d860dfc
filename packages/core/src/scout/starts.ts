import type { Machine } from '../machine/index.js';
import type { Place, Tape } from '../run/index.js';
import { type Course, fits, type World } from '../world/index.js';

/** Where scouting begins: a place, and how a tape names it. */
export interface Start extends Place {
  from: Tape['start'];
}

/** Places of a grid at most; a finer one is made coarser until it has no more. */
const MAX_PLACES = 500;

/**
 * Where a course is scouted from: each of its spawns that has room, facing as it says and the other way; and with `grid` (metres),
 * every place of such a grid in which one of the body's stances fits.
 */
export function startsOf(machine: Machine, world: World, grid?: number): Start[] {
  const { spawns } = world.course;
  const turned = (facing: 1 | -1): 1 | -1 => (facing === 1 ? -1 : 1);
  // Where no stance fits no tape can begin, so nothing found from there could be shown.
  const own = spawns
    .filter(({ x, y }) => machine.stances.some((_, i) => fits(world, i, x, y)))
    .map(({ name, x, y, facing }): Start => ({ x, y, facing, from: { spawn: name } }));
  const starts = [...own, ...own.map((s): Start => ({ ...s, facing: turned(s.facing) }))];
  return grid === undefined ? starts : [...starts, ...gridStarts(machine, world, grid)];
}

/** Points of a grid that are tried for room; a finer grid is made coarser before any of it is built. */
const MAX_POINTS = 50_000;

const pointsOf = ({ bounds }: Course, step: number): number =>
  (Math.floor((bounds.maxX - bounds.minX) / step) + 1) * (Math.floor((bounds.maxY - bounds.minY) / step) + 1);

function gridStarts(machine: Machine, world: World, grid: number): Start[] {
  let first = grid;
  while (pointsOf(world.course, first) > MAX_POINTS) first *= 1.25;
  for (let step = first; ; step *= 1.25) {
    const places = placesOf(world.course, step).filter(({ x, y }) =>
      machine.stances.some((_, i) => fits(world, i, x, y)),
    );
    if (places.length <= MAX_PLACES)
      return places.map(({ x, y }, i): Start => ({ x, y, facing: i % 2 === 0 ? 1 : -1, from: { x, y } }));
  }
}

/** The points of a grid within a course, in centimetres so that a tape says them exactly. */
function placesOf({ bounds }: Course, step: number): { x: number; y: number }[] {
  const places: { x: number; y: number }[] = [];
  const round = (n: number): number => Math.round(n * 100) / 100;
  for (let y = bounds.minY; y <= bounds.maxY; y += step)
    for (let x = bounds.minX; x <= bounds.maxX; x += step) places.push({ x: round(x), y: round(y) });
  return places;
}
