/** Work in steps, between which whoever does it may do something else, or leave it. */
export type Steps<T> = Generator<void, T>;

/** Does all of it at once. */
export function finished<T>(steps: Steps<T>): T {
  for (;;) {
    const step = steps.next();
    if (step.done === true) return step.value;
  }
}
