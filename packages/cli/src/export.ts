import { dotOf, gridCsv, scxmlOf } from '@glenmark/core/charts';
import { type LoadedMoveset, loadMoveset } from './load.js';

/** What a moveset can be exported as. */
export const EXPORTS: Record<'scxml' | 'dot' | 'csv', (moveset: LoadedMoveset) => string> = {
  scxml: ({ document }) => scxmlOf(document),
  dot: ({ machine }) => dotOf(machine),
  csv: ({ machine }) => gridCsv(machine),
};

/** `glenmark export`: a moveset for other tools, on standard output. */
export function exported(
  file: string,
  { to }: { to: keyof typeof EXPORTS },
): { output: string; warnings: string[]; exitCode: number } {
  const moveset = loadMoveset(file, undefined);
  return { output: EXPORTS[to](moveset).replace(/\r?\n$/, ''), warnings: moveset.warnings, exitCode: 0 };
}
