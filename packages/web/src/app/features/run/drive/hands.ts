import { signal } from '@angular/core';
import type { Control } from '@glenmark/core/machine';

/** What a person holds right now: keys by their code, and whatever pad there is. */
export class Hands {
  /** The keys that are down, by their code. */
  readonly down = signal<ReadonlySet<string>>(new Set());
  /** Where the pointer is from the body, as an angle for aims (degrees). */
  aim = 0;

  press(code: string): void {
    if (!this.down().has(code)) this.down.update((down) => new Set([...down, code]));
  }

  release(code: string): void {
    this.down.update((down) => new Set([...down].filter((other) => other !== code)));
  }

  letGo(): void {
    this.down.set(new Set());
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
    const any = (codes: readonly string[]): number => (codes.some((c) => this.down().has(c)) ? 1 : 0);
    return controls.map((control) => {
      if (control.kind === 'aim') return Math.round(this.aim);
      if (control.kind === 'button') return Math.max(any(control.keys), ...control.pad.map(button), 0);
      const keys = any(control.positive) - any(control.negative);
      return keys !== 0 ? keys : (control.pad.map(axis).find((v) => v !== 0) ?? 0);
    });
  }
}
