import { dotOf, gridCsv } from '@glenmark/core/charts';
import type { Machine } from '@glenmark/core/machine';
import { loadMoveset } from './load.js';

/** What a moveset can be exported as. */
export const EXPORTS: Record<'dot' | 'csv', (machine: Machine) => string> = { dot: dotOf, csv: gridCsv };

/** `glenmark export`: a moveset for other tools, on standard output. */
export function exported(
  file: string,
  { to }: { to: keyof typeof EXPORTS },
): { output: string; warnings: string[]; exitCode: number } {
  const { machine, warnings } = loadMoveset(file, undefined);
  return { output: EXPORTS[to](machine).replace(/\r?\n$/, ''), warnings, exitCode: 0 };
}
