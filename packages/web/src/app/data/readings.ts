import { readMoveset } from '@glenmark/core/machine';
import { readTape } from '@glenmark/core/run';
import { readCourse } from '@glenmark/core/world';

/** What texts read as, each read once as long as it is among those that were asked for last. */
export interface Readings<T> {
  of(text: string): T;
  /** Takes in what a text reads as, from whoever knows it without reading. */
  put(text: string, value: T): void;
}

/** Readings of the last `size` texts. */
export function createReadings<T>(read: (text: string) => T, size: number): Readings<T> {
  const known = new Map<string, T>();
  const put = (text: string, value: T): void => {
    // Asked for last, it comes last in the map, and is dropped last.
    known.delete(text);
    known.set(text, value);
    if (known.size > size) known.delete(known.keys().next().value!);
  };
  return {
    put,
    of(text) {
      const value = known.get(text) ?? read(text);
      put(text, value);
      return value;
    },
  };
}

/** Movesets at their own rate: one edit asks for the same text several times, and each reading costs an edit's worth of time. */
export const movesetReadings = createReadings((text) => readMoveset(text), 3);
export const courseReadings = createReadings(readCourse, 8);
export const tapeReadings = createReadings(readTape, 32);
