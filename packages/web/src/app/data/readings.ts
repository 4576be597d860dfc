import { readMoveset } from '@glenmark/core/machine';
import { readTape } from '@glenmark/core/run';
import { readCourse } from '@glenmark/core/world';

/** Reads each text once, as long as it is among the `size` texts that were asked for last. */
export function remembering<T>(read: (text: string) => T, size: number): (text: string) => T {
  const known = new Map<string, T>();
  return (text) => {
    const value = known.get(text) ?? read(text);
    // Asked for last, it comes last in the map, and is dropped last.
    known.delete(text);
    known.set(text, value);
    if (known.size > size) known.delete(known.keys().next().value!);
    return value;
  };
}

/** A moveset at its own rate: one edit asks for the same text several times, and each reading costs an edit's worth of time. */
export const movesetOf = remembering((text) => readMoveset(text), 3);
export const courseOf = remembering(readCourse, 8);
export const tapeOf = remembering(readTape, 32);
