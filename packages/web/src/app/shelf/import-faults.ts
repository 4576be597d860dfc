import { errorsOf, kindOf, readCourse, readMoveset, readTape } from '@glenmark/core';

/** What is wrong with a file that somebody wants to import, each with its place. */
export function faultsOf(text: string): string[] {
  const kind = kindOf(text) ?? 'moveset';
  const { diagnostics } = { moveset: readMoveset, course: readCourse, tape: readTape }[kind](text);
  return errorsOf(diagnostics)
    .slice(0, 8)
    .map((d) => `${d.line}:${d.column}: ${d.message}`);
}
