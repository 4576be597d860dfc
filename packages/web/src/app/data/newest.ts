import type { Steps } from '@glenmark/core/steps';

/** So long (ms) a worker does not look whether a newer question came. */
const SLICE = 12;

/** Lets what has arrived in the meantime be heard. Unlike a timer, it waits for nothing else. */
function pause(): Promise<void> {
  const { port1, port2 } = new MessageChannel();
  return new Promise((resume) => {
    port1.onmessage = () => {
      port1.close();
      resume();
    };
    port2.postMessage(undefined);
  });
}

/**
 * Makes a function that does work in slices, and leaves it, with undefined, as soon as it is called for newer work.
 */
export function createNewest(slice = SLICE): <T>(work: Steps<T>) => Promise<T | undefined> {
  let last = 0;
  return async (work) => {
    const own = ++last;
    // What came together with this question is heard first.
    await pause();
    for (let since = performance.now(); own === last;) {
      const step = work.next();
      if (step.done === true) return step.value;
      if (performance.now() - since < slice) continue;
      await pause();
      since = performance.now();
    }
    work.return(undefined as never);
    return undefined;
  };
}
