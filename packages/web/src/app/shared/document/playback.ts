import { signal } from '@angular/core';

/** How a run is played back. */
export interface PlaybackOptions {
  /** Ticks a second. */
  rate: number;
  /** A share of real time, which may change while it plays. */
  speed: () => number;
  last: number;
  /** The ticks that are played over and over, while there are such; `to` is the first that is not. */
  loop?: () => { from: number; to: number } | undefined;
  at: (tick: number) => void;
  done: () => void;
}

/** Moves a playhead through a run as time goes by. */
export class Playback {
  readonly playing = signal(false);
  private frame = 0;

  play(from: number, { rate, speed, last, loop, at, done }: PlaybackOptions): void {
    let before: number | undefined;
    let tick = from;
    const step = (now: number): void => {
      tick += ((now - (before ?? now)) / 1000) * rate * speed();
      before = now;
      const round = loop?.();
      if (round !== undefined && (tick >= round.to || tick < round.from)) tick = round.from;
      at(Math.min(Math.floor(tick), last));
      if (round === undefined && tick >= last) done();
      else this.frame = requestAnimationFrame(step);
    };
    this.playing.set(true);
    this.frame = requestAnimationFrame(step);
  }

  stop(): void {
    cancelAnimationFrame(this.frame);
    this.playing.set(false);
  }
}
