import { readMoveset } from '@glenmark/core/machine';
import { errorsOf, kindOf } from '@glenmark/core/model';
import { readTape } from '@glenmark/core/run';
import { readCourse } from '@glenmark/core/world';

/** What is wrong with a file that somebody wants to import, each with its place. */
export function faultsOf(text: string): string[] {
  const kind = kindOf(text) ?? 'moveset';
  const { diagnostics } = { moveset: readMoveset, course: readCourse, tape: readTape }[kind](text);
  return errorsOf(diagnostics)
    .slice(0, 8)
    .map((d) => `${d.line}:${d.column}: ${d.message}`);
}
