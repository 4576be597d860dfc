import { computed, signal } from '@angular/core';
import type { Control } from '@glenmark/core/machine';
import type { Player, TickRecord } from '@glenmark/core/run';

/** What a person holds right now: keys by their code, and whatever pad there is. */
class Hands {
  private readonly down = new Set<string>();
  /** Where the pointer is from the body, as an angle for aims (degrees). */
  aim = 0;

  press(code: string): void {
    this.down.add(code);
  }

  release(code: string): void {
    this.down.delete(code);
  }

  letGo(): void {
    this.down.clear();
  }

  /** The value of each control: keys first, then the first pad that says something. */
  read(controls: readonly Control[]): number[] {
    const pads = navigator.getGamepads().filter((p) => p !== null);
    const button = (name: string): number => {
      const index = Number(/^button(\d+)$/.exec(name)?.[1] ?? NaN);
      return pads.some((p) => p.buttons[index]?.pressed === true) ? 1 : 0;
    };
    const axis = (name: string): number => {
      const index = Number(/^axis(\d+)$/.exec(name)?.[1] ?? NaN);
      const value = pads.map((p) => p.axes[index] ?? 0).find((v) => Math.abs(v) > 0.2) ?? 0;
      return Math.round(value * 100) / 100;
    };
    const any = (codes: readonly string[]): number => (codes.some((c) => this.down.has(c)) ? 1 : 0);
    return controls.map((control) => {
      if (control.kind === 'aim') return Math.round(this.aim);
      if (control.kind === 'button') return Math.max(any(control.keys), ...control.pad.map(button), 0);
      const keys = any(control.positive) - any(control.negative);
      return keys !== 0 ? keys : (control.pad.map(axis).find((v) => v !== 0) ?? 0);
    });
  }
}

/** At most so many ticks are made up for in one frame; a page that slept goes on where it was. */
const CATCH_UP = 8;

/**
 * Drives a player live: ticks at the fixed rate whatever the display's, under what is held at each of them. Records
 * the inputs from the first tick on, those of a tape that was taken over included.
 */
export class Driver {
  readonly hands = new Hands();
  readonly inputs: number[][] = [];
  readonly record = signal<TickRecord | undefined>(undefined);
  readonly paused = signal(false);
  readonly speed = signal(1);
  /** Frames drawn in the last second. */
  readonly frames = signal(0);
  readonly tick = computed(() => this.record()?.tick ?? -1);
  /** The last places of the feet. */
  readonly trail: { x: number; y: number; leaf: number }[] = [];

  private frame = 0;
  private owed = 0;
  private last: number | undefined;
  private counted = { since: 0, frames: 0 };

  constructor(
    private readonly player: Player,
    before: readonly (readonly number[])[],
  ) {
    for (const input of before) this.step([...input]);
  }

  start(): void {
    this.frame = requestAnimationFrame((now) => this.onFrame(now));
  }

  stop(): void {
    cancelAnimationFrame(this.frame);
  }

  /** One tick under what is held now; while paused this is how it goes on. */
  stepOnce(): void {
    this.step(this.hands.read(this.player.machine.controls));
  }

  private onFrame(now: number): void {
    const elapsed = this.last === undefined ? 0 : now - this.last;
    this.last = now;
    this.count(now);
    if (!this.paused()) {
      this.owed += (elapsed / 1000) * this.player.machine.rate * this.speed();
      const ticks = Math.min(Math.floor(this.owed), CATCH_UP);
      this.owed = ticks === CATCH_UP ? 0 : this.owed - ticks;
      for (let i = 0; i < ticks && !this.player.hasLeft(); i++) this.stepOnce();
    }
    this.frame = requestAnimationFrame((next) => this.onFrame(next));
  }

  private step(input: number[]): void {
    this.inputs.push(input);
    const record = this.player.step(input);
    this.trail.push({ x: record.body.x, y: record.body.y, leaf: record.leaves[0]! });
    if (this.trail.length > 240) this.trail.shift();
    this.record.set(record);
  }

  private count(now: number): void {
    this.counted.frames++;
    if (now - this.counted.since < 1000) return;
    this.frames.set(Math.round((this.counted.frames * 1000) / (now - this.counted.since)));
    this.counted = { since: now, frames: 0 };
  }
}
