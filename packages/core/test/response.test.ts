import { describe, expect, it } from 'vitest';
import { readMoveset } from '@glenmark/core/machine';
import { finished } from '@glenmark/core/steps';
import { loneState, responding } from '@glenmark/core/run';

const text = (motion: string): string => `glenmark: 1
kind: moveset
name: Small
gravity: 20 m/s2
controls: { move: { axis: { negative: [KeyA], positive: [KeyD] } } }
body: { stances: { upright: { shape: capsule, width: 0.7 m, height: 1.7 m } } }
lanes:
  - name: legs
    initial: Walk
    states:
      Walk: { motion: { drive: { to: axis(move) * 6 m/s, gain: 60 m/s2, brake: 30 m/s2 } } }
      Up: ${motion}
      Odd: { motion: { drag: "if in(Walk) then 1 1/s else 0 1/s" } }
    crossings:
      - { from: Walk, to: Up, when: airborne }
      - { from: Up, to: Walk, when: grounded and vy <= 0 }
`;

const aloneIn = (moveset: string, name: string) => {
  const { file, machine } = readMoveset(moveset);
  return loneState(
    file!,
    file!.lanes[0]!,
    machine!.states.find((s) => s.name === name)!,
  );
};

const of = (name: string, motion = '{ motion: { drive: { to: axis(move) * 4 m/s, gain: 8 m/s2 } } }') => {
  return finished(responding(aloneIn(text(motion), name)));
};

describe('the response of a state', () => {
  it('is that of its drive: 6 m/s at 60 m/s2 in 0.1 s, and at 30 m/s2 stopped in 0.2 s', () => {
    const { full, up, stop, slide } = of('Walk')!.drive!;
    expect(full).toBeCloseTo(6, 9);
    expect(up).toBeCloseTo(0.1, 9);
    expect(stop).toBeCloseTo(0.2, 9);
    // The sum of 6 − 0.5k for the 12 ticks that it takes.
    expect(slide).toBeCloseTo(33 / 60, 9);
  });

  it('in the air tells the apex, v²/2g but for half a tick, and the time up, v/g, but for a tick', () => {
    const { apex, up } = of('Up')!.rise!;
    expect(Math.abs(apex - 100 / 40)).toBeLessThan(0.1);
    expect(Math.abs(up - 10 / 20)).toBeLessThan(0.025);
  });

  it('is told of what asks for other states too: they are there, and never entered', () => {
    expect(of('Odd')).toMatchObject({ drive: undefined, rise: undefined });
  });

  it('is asked for anew when its motion was edited, and not when only crossings were', () => {
    const own = text('{ motion: { gravity: { rising: 0.5 } } }');
    const walk = aloneIn(own, 'Walk');
    expect(aloneIn(own.replace('when: airborne', 'when: falling'), 'Walk')).toEqual(walk);
    expect(aloneIn(own.replace('6 m/s,', '5 m/s,'), 'Walk')).not.toEqual(walk);
  });
});
