import type { Machine } from '@glenmark/core/machine';
import type { MovesetFile, Path } from '@glenmark/core/model';
import { formatValue } from '@glenmark/core/notation';

/** A dial with the ends of its slider; those that the file does not give are worked out from its value. */
export interface DialRow {
  name: string;
  path: Path;
  /** Where its value is in the document: the dial itself when it has no range. */
  valuePath: Path;
  text: string;
  value: number;
  unit: string;
  min: number;
  max: number;
  step: number;
  derived: boolean;
}

export const dialRows = (machine: Machine, file: MovesetFile): DialRow[] =>
  machine.dials.map((dial): DialRow => {
    const own = file.dials?.[dial.name];
    const ranged = typeof own === 'object';
    const reach = Math.max(1, Math.abs(dial.value) * 2);
    const min = Number.isFinite(dial.min) ? dial.min : dial.value < 0 ? -reach : 0;
    const max = Number.isFinite(dial.max) ? dial.max : reach;
    return {
      name: dial.name,
      path: dial.path,
      valuePath: ranged ? [...dial.path, 'value'] : dial.path,
      text: String(ranged ? own.value : own),
      value: dial.value,
      unit: formatValue(1, dial.dimension).replace(/^1 ?/, ''),
      min: Math.min(min, dial.value),
      max: Math.max(max, dial.value),
      step: dial.step ?? (max - min) / 100,
      derived: dial.derived,
    };
  });

/** The dials that some texts of the notation depend on, through other dials too: those that can be turned themselves. */
export function dialsBehind(dials: readonly DialRow[], texts: readonly string[]): DialRow[] {
  const seen = new Set<DialRow>();
  const follow = (text: string): void => {
    const words: readonly string[] = text.match(/[A-Za-z_]\w*/g) ?? [];
    for (const dial of dials.filter((d) => words.includes(d.name) && !seen.has(d))) {
      seen.add(dial);
      follow(dial.text);
    }
  };
  texts.forEach(follow);
  return dials.filter((dial) => seen.has(dial) && !dial.derived);
}
