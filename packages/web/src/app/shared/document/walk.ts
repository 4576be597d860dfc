import { computed, Injectable, signal } from '@angular/core';
import { store, stored } from '../ui/browser-store';

/** The steps of the first walk, in order; each waits for what a person does. */
export const WALK_STEPS = ['open', 'play', 'why', 'break', 'see', 'undo'] as const;
export type WalkStep = (typeof WALK_STEPS)[number];

/** The moveset that the walk goes through. */
export const WALK_MOVESET = 'signal-kite';

/** The name under which the browser remembers that the walk was taken or left. */
const TAKEN = 'walk';

/**
 * The first walk: six short steps through the signal kite. Views say what was done in them; the walk goes on when that
 * is what it waits for.
 */
@Injectable({ providedIn: 'root' })
export class Walk {
  /** How many steps are done; undefined while nobody takes the walk. */
  readonly done = signal<number | undefined>(undefined);
  /** The step that it waits for; undefined before the walk and at its end. */
  readonly step = computed((): WalkStep | undefined => WALK_STEPS[this.done() ?? WALK_STEPS.length]);
  private readonly taken = signal(stored(TAKEN) !== undefined);
  /** Whether the shelf offers the walk: nobody has taken or declined it in this browser. */
  readonly isOffered = computed(() => !this.taken() && this.done() === undefined);

  start(): void {
    this.done.set(0);
    this.remember();
  }

  /** Ends the walk, done or not; it is found again in the sheet of keys. */
  leave(): void {
    this.done.set(undefined);
    this.remember();
  }

  /** Something was done in a view. */
  did(step: WalkStep): void {
    if (this.step() === step) this.done.update((done) => (done ?? 0) + 1);
  }

  private remember(): void {
    this.taken.set(true);
    store(TAKEN, 'taken');
  }
}
