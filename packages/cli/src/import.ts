import { readScxml } from '@glenmark/core/charts';
import { readMoveset } from '@glenmark/core/machine';
import { formatDiagnostic } from '@glenmark/core/model';
import { failWith, textOf } from './load.js';

/** `glenmark import`: a chart in SCXML as a moveset, on standard output; what did not come over goes to standard error. */
export function imported(file: string): { output: string; warnings: string[]; exitCode: number } {
  const { text, notCarried, diagnostics } = readScxml(textOf(file));
  if (text === undefined) return failWith(file, diagnostics);
  const faults = readMoveset(text).diagnostics;
  return {
    output: text.trimEnd(),
    warnings: [
      ...notCarried.map(({ line, message }) => `${file}:${line}: ${message}`),
      ...faults.map((d) => formatDiagnostic('the moveset that it gives', d)),
    ],
    exitCode: 0,
  };
}
