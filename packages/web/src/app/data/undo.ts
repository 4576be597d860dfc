import { computed, signal } from '@angular/core';

/** One undoable step: its name, and the text before and after. */
export interface Step {
  name: string;
  before: string;
  after: string;
}

/** As many steps back as anybody goes. */
const KEPT = 200;

/** The steps that can be undone and done again. */
export class UndoSteps {
  private readonly steps = signal<{ done: Step[]; undone: Step[] }>({ done: [], undone: [] });
  readonly undoName = computed(() => this.steps().done.at(-1)?.name);
  readonly redoName = computed(() => this.steps().undone.at(-1)?.name);

  /** Adds a step; one that `goesOn` is joined with the step before when that has the same name. */
  push(step: Step, goesOn = false): void {
    this.steps.update(({ done }) => {
      const last = done.at(-1);
      const joined = goesOn && last?.name === step.name && last.after === step.before;
      const list = joined ? [...done.slice(0, -1), { ...step, before: last.before }] : [...done, step];
      return { done: list.slice(-KEPT), undone: [] };
    });
  }

  clear(): void {
    this.steps.set({ done: [], undone: [] });
  }

  /** The step that is undone now; its `before` is the text to go back to. */
  undo(): Step | undefined {
    const step = this.steps().done.at(-1);
    if (step !== undefined)
      this.steps.update(({ done, undone }) => ({ done: done.slice(0, -1), undone: [...undone, step] }));
    return step;
  }

  /** The step that is done again now; its `after` is the text to go to. */
  redo(): Step | undefined {
    const step = this.steps().undone.at(-1);
    if (step !== undefined)
      this.steps.update(({ done, undone }) => ({ done: [...done, step], undone: undone.slice(0, -1) }));
    return step;
  }
}
