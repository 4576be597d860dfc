import { computed, signal } from '@angular/core';
import type { Machine, Situation } from '@glenmark/core/machine';
import { createPlayer, type Player, type TickRecord, type Trace } from '@glenmark/core/run';
import type { World } from '@glenmark/core/world';
import { Hands } from './hands';

/** At most so many ticks are made up for in one frame; a page that slept goes on where it was. */
const CATCH_UP = 8;
/** A situation is kept every so many ticks, so that driving on from long ago starts at once. */
const KEEP_EVERY = 300;

/** What is driven, and from where. */
export interface Drive {
  machine: Machine;
  world: World;
  start: { x: number; y: number; facing: 1 | -1 };
  /** The inputs of the tape up to where it is taken over. */
  before: readonly (readonly number[])[];
}

/**
 * Drives a machine live: ticks at the fixed rate whatever the display's, under what is held at each of them. Keeps
 * every tick, those of the tape it took over included, so that one can look back and drive on from any of them.
 */
export class Driver {
  readonly hands = new Hands();
  readonly inputs: number[][] = [];
  /** What was driven so far; it grows. */
  readonly trace: Trace;
  readonly paused = signal(false);
  readonly speed = signal(1);
  /** Frames drawn in the last second. */
  readonly frames = signal(0);
  /** The last tick that was driven; -1 before the first. */
  readonly tick = signal(-1);
  /** The earlier tick that is being looked at, if any. */
  private readonly looked = signal<number | undefined>(undefined);
  /** The tick that is shown. */
  readonly shown = computed(() => this.looked() ?? this.tick());
  readonly record = computed((): TickRecord | undefined => this.trace.records[this.shown()]);

  private player: Player;
  /** The situation before every so many ticks. */
  private readonly situations: Situation[] = [];
  private frame = 0;
  private owed = 0;
  private last: number | undefined;
  private counted = { since: 0, frames: 0 };

  constructor(readonly drive: Drive) {
    const { machine, world, start, before } = drive;
    this.player = createPlayer(machine, world, start);
    this.trace = { machine, start: { x: start.x, y: start.y }, records: [], stopped: undefined };
    for (const input of before) this.step([...input]);
  }

  start(): void {
    this.frame = requestAnimationFrame((now) => this.onFrame(now));
  }

  stop(): void {
    cancelAnimationFrame(this.frame);
  }

  /** Pauses, or drives on from the tick that is shown; the ticks after it are dropped. */
  togglePause(): void {
    if (this.paused()) this.dropAfter(this.shown());
    this.paused.update((paused) => !paused);
  }

  /** Shows the tick before. */
  back(): void {
    this.paused.set(true);
    this.looked.set(Math.max(0, this.shown() - 1));
  }

  /** Shows the next tick; after the last one, drives a new one with what is held now. */
  forward(): void {
    this.paused.set(true);
    const next = this.shown() + 1;
    if (next > this.tick()) this.stepOnce();
    else this.looked.set(next === this.tick() ? undefined : next);
  }

  private stepOnce(): void {
    this.step(this.hands.read(this.drive.machine.controls));
  }

  private onFrame(now: number): void {
    const elapsed = this.last === undefined ? 0 : now - this.last;
    this.last = now;
    this.count(now);
    if (!this.paused()) {
      this.owed += (elapsed / 1000) * this.drive.machine.rate * this.speed();
      const ticks = Math.min(Math.floor(this.owed), CATCH_UP);
      this.owed = ticks === CATCH_UP ? 0 : this.owed - ticks;
      for (let i = 0; i < ticks && !this.player.hasLeft(); i++) this.stepOnce();
    }
    this.frame = requestAnimationFrame((next) => this.onFrame(next));
  }

  private step(input: number[]): void {
    const { records } = this.trace;
    if (records.length === this.situations.length * KEEP_EVERY)
      this.situations.push(structuredClone(this.player.situation));
    this.inputs.push(input);
    records.push(this.player.step(input));
    this.tick.set(records.length - 1);
  }

  /** Drops all ticks after one, and brings the player back to it from the nearest kept situation before it. */
  private dropAfter(tick: number): void {
    this.looked.set(undefined);
    if (tick >= this.tick()) return;
    const { machine, world, start } = this.drive;
    const kept = Math.floor((tick + 1) / KEEP_EVERY);
    const again = this.inputs.slice(kept * KEEP_EVERY, tick + 1);
    const from = this.situations[kept];
    this.player = createPlayer(machine, world, start, from === undefined ? {} : { from });
    this.situations.length = kept;
    this.inputs.length = kept * KEEP_EVERY;
    this.trace.records.length = kept * KEEP_EVERY;
    this.tick.set(kept * KEEP_EVERY - 1);
    for (const input of again) this.step(input);
  }

  private count(now: number): void {
    this.counted.frames++;
    if (now - this.counted.since < 1000) return;
    this.frames.set(Math.round((this.counted.frames * 1000) / (now - this.counted.since)));
    this.counted = { since: now, frames: 0 };
  }
}
