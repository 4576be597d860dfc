import fc from 'fast-check';
import courier from '../../../../../../examples/courier.yaml' with { loader: 'text' };
import { readMoveset } from '@glenmark/core/machine';
import { buildWorld, readCourse } from '@glenmark/core/world';
import { standAt } from './body-probe';

const machine = readMoveset(courier).machine!;
const HEIGHT = 1.1;
/** A floor, and from x = 0 on a ceiling over it. */
const course = readCourse(`glenmark: 1
kind: course
name: Culvert
solids:
  - { name: floor, box: [[-20 m, -1 m], [20 m, 0 m]] }
  - { name: lid, box: [[0 m, ${HEIGHT} m], [20 m, 3 m]] }
zones: [{ tag: updraught, box: [[-10 m, 0 m], [-5 m, 3 m]], wind: [0 m/s2, 1 m/s2] }]
spawns: { gate: { at: [-5 m, 0 m] } }
`).course!;
const world = buildWorld(course, machine.stances, machine.casts);

describe('a body set down on a course', () => {
  it('fits in the stances that are lower than the ceiling over it, and in all beside it', () => {
    fc.assert(
      fc.property(fc.double({ min: -18, max: 18, noNaN: true }), (x) => {
        fc.pre(Math.abs(x) > 2);
        for (const { name, fits } of standAt(machine, world, x, 0).stances) {
          const { top } = machine.stances.find((s) => s.name === name)!;
          expect(fits).toBe(x < 0 || top <= HEIGHT);
        }
      }),
    );
  });

  it('is drawn in the first stance that fits, and in its first one where none does', () => {
    expect(machine.stances[standAt(machine, world, 5, 0).stance]!.top).toBeLessThan(HEIGHT);
    const inside = standAt(machine, world, 5, -0.5);
    expect(inside.stances.some((s) => s.fits)).toBe(false);
    expect(machine.stances[inside.stance]!.name).toBe(inside.stances[0]!.name);
  });

  it('touches the floor under its feet, and nothing in the air', () => {
    expect(standAt(machine, world, -8, 0).contacts).toContainEqual({ nx: 0, ny: 1 });
    expect(standAt(machine, world, -8, 4).contacts).toEqual([]);
  });

  it('is in the zones around it', () => {
    expect(standAt(machine, world, -8, 0).zones).toEqual(['updraught']);
    expect(standAt(machine, world, -2, 0).zones).toEqual([]);
  });

  it('has its probes end where they hit, and go on to their reach where they do not', () => {
    fc.assert(
      fc.property(fc.double({ min: -18, max: 18, noNaN: true }), (x) => {
        for (const [i, probe] of standAt(machine, world, x, 0).probes.entries()) {
          const length = Math.hypot(probe.x2 - probe.x, probe.y2 - probe.y);
          const { reach } = machine.probes[i]!;
          if (probe.hit) expect(length).toBeLessThanOrEqual(reach + 1e-9);
          else expect(length).toBeCloseTo(reach, 9);
        }
      }),
    );
  });
});
