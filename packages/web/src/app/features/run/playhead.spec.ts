import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import fc from 'fast-check';
import { PlayedTape } from './played-tape';
import { Playhead } from './playhead';

/** A playhead in a run of so many ticks, with the addresses that it went to and the frames that wait. */
function playheadIn(ticks: number) {
  const went: Record<string, unknown>[] = [];
  const frames: FrameRequestCallback[] = [];
  vi.stubGlobal('requestAnimationFrame', (frame: FrameRequestCallback) => frames.push(frame));
  vi.stubGlobal('cancelAnimationFrame', () => frames.splice(0));
  let info: unknown;
  TestBed.resetTestingModule();
  TestBed.configureTestingModule({
    providers: [
      Playhead,
      {
        provide: PlayedTape,
        useValue: {
          last: signal(ticks - 1),
          entry: signal({ tape: { id: 'round' } }),
          session: signal({ trace: { machine: { rate: 60 } } }),
        },
      },
      {
        provide: Router,
        useValue: {
          navigate: (_: unknown, extras: { queryParams: Record<string, unknown>; info: unknown }) => {
            went.push(extras.queryParams);
            info = extras.info;
          },
          lastSuccessfulNavigation: () => ({ extras: { info } }),
        },
      },
    ],
  });
  /** Lets the page draw at these milliseconds. */
  const draw = (...at: number[]): void => {
    for (const now of at) frames.shift()?.(now);
  };
  return { playhead: TestBed.inject(Playhead), went, draw, frames };
}

describe('the playhead', () => {
  afterEach(() => void vi.unstubAllGlobals());

  it('stays within the run, and the address says where it is, and of which tape', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 500 }), fc.integer({ min: -900, max: 900 }), (ticks, to) => {
        const { playhead, went } = playheadIn(ticks);
        playhead.moveTo(to);
        const expected = Math.max(0, Math.min(ticks - 1, to));
        expect(playhead.tick()).toBe(expected);
        expect(went).toEqual([{ tape: 'round', tick: expected }]);
        expect(playhead.isOwnAddress()).toBe(true);
      }),
    );
  });

  it('plays in real time, or a share of it, to the end and no further', () => {
    const { playhead, draw, frames } = playheadIn(100);
    playhead.toggle();
    draw(0, 500);
    expect([playhead.playing(), playhead.tick()]).toEqual([true, 30]);
    playhead.speed.set(0.5);
    draw(1000);
    expect(playhead.tick()).toBe(45);
    draw(9000);
    expect([playhead.playing(), playhead.tick(), frames.length]).toEqual([false, 99, 0]);
    // Again from the beginning, when it is at the end.
    playhead.toggle();
    draw(0);
    expect(playhead.tick()).toBe(0);
  });

  it('goes round in the chosen ticks while it loops, from wherever it was', () => {
    const { playhead, draw } = playheadIn(300);
    playhead.moveTo(20);
    playhead.choose('from');
    playhead.moveTo(49);
    playhead.choose('to');
    expect(playhead.span()).toEqual({ from: 20, to: 50 });
    playhead.toggleLoop();
    draw(0, 100);
    for (let now = 200; now <= 3000; now += 100) {
      draw(now);
      expect(playhead.tick()).toBeGreaterThanOrEqual(20);
      expect(playhead.tick()).toBeLessThan(50);
    }
    playhead.leaveSpan();
    expect([playhead.span(), playhead.looping()]).toEqual([undefined, false]);
  });

  it('chooses at least one tick, whichever end is chosen first', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(99), fc.constantFrom('from' as const, 'to' as const)), { minLength: 1 }),
        (choices) => {
          const { playhead } = playheadIn(100);
          for (const [tick, end] of choices) {
            playhead.startAt(tick);
            playhead.choose(end);
            const { from, to } = playhead.span()!;
            expect(to).toBeGreaterThan(from);
            if (end === 'from') expect(from).toBe(tick);
            else expect(to).toBe(tick + 1);
          }
        },
      ),
    );
  });
});
