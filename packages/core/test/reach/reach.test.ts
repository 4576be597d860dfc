import { describe, expect, it } from 'vitest';
import { place, readMoveset, startFast, step } from '@glenmark/core/machine';
import {
  beyondReach,
  cellAt,
  CELL,
  createReaching,
  type Raster,
  type Reaching,
  withoutAbility,
} from '@glenmark/core/reach';
import { play } from '@glenmark/core/run';
import { finished } from '@glenmark/core/steps';
import { buildWorld, type Course, readCourse } from '@glenmark/core/world';
import { courseOf, machineOf, movesetText, sample } from '../helpers.js';

const marram = readMoveset(sample('marram.yaml')).machine!;
const mill = readCourse(sample('tide-mill.yaml')).course!;

/** A pit between two walls: nobody gets out who only walks. */
const PIT = courseOf(
  `  - { box: [[-3 m, -1 m], [4 m, 0 m]] }
  - { box: [[-4 m, 0 m], [-3 m, 6 m]] }
  - { box: [[4 m, 0 m], [5 m, 6 m]] }`,
);

const WALK = `      Stand: { stance: tall, motion: { drive: { to: axis(move) * 4 m/s, gain: 40 m/s2, brake: 40 m/s2 } } }`;
const walker = machineOf(movesetText({ states: WALK, initial: 'Stand' }));
const hopper = machineOf(
  movesetText({
    states: `${WALK}\n      Air: { stance: tall, motion: { drive: { to: axis(move) * 4 m/s, gain: 40 m/s2 } } }`,
    crossings: `      - { from: Stand, to: Air, when: pressed(hop), do: ["vy := 8 m/s"] }
      - { from: Air, to: Stand, when: grounded and vy <= 0, rank: 1 }`,
    initial: 'Stand',
  }),
);

function reached(machine: typeof walker, course: Course, situations: number, seed = 1): Reaching {
  const reaching = createReaching(machine, course, { seed });
  finished(reaching.advance(situations));
  finished(reaching.fill());
  return reaching;
}

const cellsOf = ({ ticks }: Raster): number[] => [...ticks.keys()].filter((cell) => ticks[cell]! >= 0);
const middleOf = ({ left, bottom, rows }: Raster, cell: number): { x: number; y: number } => ({
  x: left + (Math.floor(cell / rows) + 0.5) * CELL,
  y: bottom + ((cell % rows) + 0.5) * CELL,
});

/** Every cell that is told of is come to by its way, at its tick and in its state, when that is played again. */
function expectShown({ raster, scout, wayTo }: Reaching): void {
  const { machine, course, starts } = scout;
  const world = buildWorld(course, machine.stances, machine.casts);
  const cells = cellsOf(raster);
  // Each of a few hundred by the reference.
  const every = Math.ceil(cells.length / 150);
  for (const cell of cells.filter((_, i) => i % every === 0)) {
    const { x, y } = middleOf(raster, cell);
    const way = wayTo(x, y)!;
    expect(way.inputs).toHaveLength(raster.ticks[cell]!);
    const last = play(machine, world, starts[way.start]!, way.inputs).records.at(-1);
    const body = last?.body ?? starts[way.start]!;
    expect(cellAt(raster, body.x, body.y)).toBe(cell);
    if (last !== undefined) expect(last.leaves[0]).toBe(raster.states[cell]);
  }
}

describe('where the body gets to', () => {
  it.each([
    ['a walker in a pit', walker, PIT, 2_000],
    ['a hopper in a pit', hopper, PIT, 6_000],
    ['Marram at the tide mill', marram, mill, 8_000],
  ] as const)('is shown by its way: %s', (_, machine, course, situations) => {
    const reaching = reached(machine, course, situations);
    expect(cellsOf(reaching.raster).length).toBeGreaterThan(20);
    expectShown(reaching);
  });

  it('is the whole floor of a pit for a walker, and nothing above it', () => {
    const { raster } = reached(walker, PIT, 3_000);
    const xs = cellsOf(raster).map((cell) => middleOf(raster, cell).x);
    // The body is as wide as its stance: its middle keeps half of that from the walls.
    expect(Math.min(...xs)).toBeLessThan(-2.2);
    expect(Math.max(...xs)).toBeGreaterThan(3.2);
    for (const cell of cellsOf(raster)) expect(Math.abs(middleOf(raster, cell).y)).toBeLessThan(CELL);
  });

  it('is no higher than a hop', () => {
    const { raster } = reached(hopper, PIT, 6_000);
    const { gravity, dt } = hopper;
    const highest = Math.max(...cellsOf(raster).map((cell) => middleOf(raster, cell).y));
    expect(highest).toBeLessThan((8 * 8) / (2 * gravity) + CELL);
    expect(highest).toBeGreaterThan((8 * 8) / (2 * gravity) - 8 * dt - CELL);
  });

  it('holds nearly all of where random play comes', () => {
    const { raster } = reached(hopper, PIT, 6_000);
    const { fast, starts } = createReaching(hopper, PIT, { seed: 9 }).scout;
    let [known, played] = [0, 0];
    for (let run = 0; run < 60; run++) {
      const s = startFast(fast, starts[0]!);
      for (let t = 0; t < 90; t++) {
        // Held for eight ticks each, by a fixed mixture.
        const code = (run * 7919 + Math.floor(t / 8) * 104_729) % 6;
        step(fast, s, [(code % 3) - 1, Number(code > 2), 0]);
        played++;
        const cell = cellAt(raster, s[place.X]!, s[place.Y]!);
        if ((raster.ticks[cell] ?? -1) >= 0) known++;
      }
    }
    expect(known / played).toBeGreaterThan(0.97);
  });

  it('is the same for the same seed', () => {
    const [a, b, c] = [1, 1, 2].map((seed) => [...reached(marram, mill, 3_000, seed).raster.ticks]);
    expect(a).toEqual(b);
    expect(a).not.toEqual(c);
  });
});

describe('a place to come to', () => {
  it('is come nearer to than without it', () => {
    const corner = { minX: 3, maxX: 3.4, minY: 0, maxY: 0.2 };
    const { scout, advance } = createReaching(walker, PIT, { seed: 1, toward: corner });
    finished(advance(400));
    expect(scout.nearest()!.distance).toBe(0);
    expect(createReaching(walker, PIT, { seed: 1 }).scout.nearest()).toBeUndefined();
  });
});

describe('a place beyond reach', () => {
  const box = (minX: number, minY: number) => ({ minX, maxX: minX + 0.5, minY, maxY: minY + 0.5 });

  it('is walled off, or too high, and what was reached is never called so', () => {
    expect(beyondReach(hopper, PIT, box(8, 0))).toMatchObject({ why: 'tooHigh' });
    const roofed = courseOf(
      `  - { box: [[-3 m, -1 m], [4 m, 0 m]] }
  - { box: [[-4 m, -1 m], [-3 m, 6 m]] }
  - { box: [[4 m, -1 m], [5 m, 6 m]] }
  - { box: [[-4 m, 6 m], [5 m, 7 m]] }`,
    );
    expect(beyondReach(hopper, roofed, box(8, 0))).toEqual({ why: 'walledOff' });
    const high = beyondReach(hopper, PIT, box(0, 4));
    expect(high).toMatchObject({ why: 'tooHigh' });
    expect(high?.why === 'tooHigh' && high.height).toBeGreaterThan((8 * 8) / (2 * hopper.gravity) - 0.01);
    const { raster } = reached(hopper, PIT, 3_000);
    const cells = cellsOf(raster);
    for (const cell of cells.filter((_, i) => i % Math.ceil(cells.length / 25) === 0)) {
      const { x, y } = middleOf(raster, cell);
      const own = { minX: x - CELL / 2, maxX: x + CELL / 2, minY: y - CELL / 2, maxY: y + CELL / 2 };
      expect(beyondReach(hopper, PIT, own)).toBeUndefined();
    }
  });
});

describe('without an ability', () => {
  it('nothing unlocks it, and no state that asks for it is entered', () => {
    const { machine, course } = withoutAbility(marram, mill, 'parasol');
    const reaching = reached(machine, course, 20_000);
    const own = reached(marram, mill, 20_000);
    finished(reaching.follow(own.ways()));
    expectShown(reaching);
    const { scout } = reaching;
    const ability = marram.abilities.findIndex((a) => a.name === 'parasol');
    const states = marram.states.filter((s) => s.ability === ability).map((s) => s.index);
    const crossings = marram.lanes.flatMap((lane) => lane.crossings.filter((c) => c.ability === ability));
    expect(states.length + crossings.length).toBeGreaterThan(0);
    for (const { event } of scout.sightingsFrom(0)) {
      if (event.kind !== 'taken') continue;
      expect(crossings.some((c) => c.lane === event.lane && c.index === event.crossing)).toBe(false);
    }
    expect(() => withoutAbility(marram, mill, 'wings')).toThrow(/no ability is called 'wings'/);
  });
});
