import { Playback, type PlaybackOptions } from './playback';

/** Frames at will: each call of `frame` is one more picture, some milliseconds later. */
function clock(): { frame(ms: number): void } {
  let now = 0;
  let next: FrameRequestCallback | undefined;
  vi.stubGlobal('requestAnimationFrame', (call: FrameRequestCallback) => {
    next = call;
    return 1;
  });
  vi.stubGlobal('cancelAnimationFrame', () => (next = undefined));
  return {
    frame(ms) {
      now += ms;
      const call = next;
      next = undefined;
      call?.(now);
    },
  };
}

function start(options: Partial<PlaybackOptions>, from = 0) {
  const time = clock();
  const ticks: number[] = [];
  let isDone = false;
  const playback = new Playback();
  playback.play(from, {
    rate: 60,
    speed: () => 1,
    last: 100,
    at: (tick) => ticks.push(tick),
    done: () => (isDone = true),
    ...options,
  });
  time.frame(0);
  return { time, ticks, playback, isDone: () => isDone };
}

describe('playing back', () => {
  afterEach(() => vi.unstubAllGlobals());

  it('goes by time, whatever the frames are, and ends at the last tick', () => {
    for (const ms of [4, 16, 50]) {
      const { time, ticks, isDone } = start({});
      for (let t = 0; t < 1000; t += ms) time.frame(ms);
      expect(Math.abs(ticks.at(-1)! - 60)).toBeLessThanOrEqual((60 * ms) / 1000 + 1);
      expect(ticks).toEqual([...ticks].sort((a, b) => a - b));
      for (let t = 0; t < 1000; t += ms) time.frame(ms);
      expect(isDone()).toBe(true);
      expect(ticks.at(-1)).toBe(100);
    }
  });

  it('can change its speed on the way, down to a tick a second', () => {
    let speed = 1;
    const { time, ticks } = start({ speed: () => speed });
    for (let i = 0; i < 30; i++) time.frame(20);
    const before = ticks.at(-1)!;
    speed = 1 / 60;
    for (let i = 0; i < 100; i++) time.frame(20);
    expect(ticks.at(-1)! - before).toBeGreaterThanOrEqual(1);
    expect(ticks.at(-1)! - before).toBeLessThanOrEqual(3);
  });

  it('stays in a span that is played round, from wherever it was, and is never done', () => {
    const { time, ticks, isDone } = start({ loop: () => ({ from: 40, to: 50 }) }, 5);
    for (let i = 0; i < 200; i++) time.frame(17);
    expect(ticks.slice(1).every((tick) => tick >= 40 && tick < 51)).toBe(true);
    expect(new Set(ticks.slice(1)).size).toBeGreaterThanOrEqual(10);
    expect(isDone()).toBe(false);
  });

  it('stops when it is told to', () => {
    const { time, ticks, playback } = start({});
    time.frame(100);
    playback.stop();
    const count = ticks.length;
    time.frame(100);
    expect(ticks).toHaveLength(count);
    expect(playback.playing()).toBe(false);
  });
});
