import { readMoveset } from '@glenmark/core/machine';
import { errorsOf, kindOf, parseSource, type Kind } from '@glenmark/core/model';
import { readTape } from '@glenmark/core/run';
import { readCourse } from '@glenmark/core/world';
import type { Checked } from './checker.js';

const READERS = { moveset: readMoveset, course: readCourse, tape: readTape };

/** Most errors that are told of one document. */
const TOLD = 100;

/** Reads a text as a document of a kind, in a worker thread. */
export default function check({ kind: wanted, text }: { kind: Kind | undefined; text: string }): Checked {
  const kind = wanted ?? kindOf(text);
  // A text that does not say its kind may not be readable at all: then that is what is wrong.
  const { file, diagnostics } =
    kind === undefined ? { file: undefined, ...parseSource(text) } : READERS[kind](text);
  const errors = errorsOf(diagnostics);
  return { kind, name: file?.name ?? '', diagnostics: errors.slice(0, TOLD), errors: errors.length };
}
