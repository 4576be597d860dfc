import { errorsOf, kindOf, readCourse, readMoveset, readTape, type Kind } from '@glenmark/core';
import type { Checked } from './checker.js';

const READERS = { moveset: readMoveset, course: readCourse, tape: readTape };

/** Most errors that are told of one document. */
const TOLD = 100;

/** Reads a text as a document of a kind, in a worker thread. */
export default function check({ kind: wanted, text }: { kind: Kind | undefined; text: string }): Checked {
  const kind = wanted ?? kindOf(text);
  if (kind === undefined) return { kind, name: '', diagnostics: [], errors: 0 };
  const { file, diagnostics } = READERS[kind](text);
  const errors = errorsOf(diagnostics);
  return { kind, name: file?.name ?? '', diagnostics: errors.slice(0, TOLD), errors: errors.length };
}
