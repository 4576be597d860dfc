import type { ColumnApart } from '@glenmark/core/run';

/** A column of a log as the panel shows it. */
export interface LogRow {
  name: string;
  /** What the game calls it, where that is another name. */
  theirs: string;
  /** The tick where it parts, and what either says there; undefined where it does not. */
  parts: { tick: number; game: string; model: string } | undefined;
  /** How far it is off, in words. */
  off: string;
}

/** Columns in the order of the log; the first that part come first. */
export function logRows(columns: readonly ColumnApart[]): LogRow[] {
  const rows = columns.map(({ is, name, unit, first, most, within }): LogRow => {
    const said = (value: number): string => `${Number(value.toPrecision(3))}${unit === '' ? '' : ` ${unit}`}`;
    return {
      name: is,
      theirs: name === is ? '' : name,
      parts: first,
      off: first === undefined && isTiny(most?.off, within) ? '' : offText(most?.off, within, said),
    };
  });
  const tick = (row: LogRow): number => row.parts?.tick ?? Infinity;
  return rows.sort((a, b) => (tick(a) === tick(b) ? 0 : tick(a) - tick(b)));
}

function offText(
  off: number | undefined,
  within: number | undefined,
  said: (value: number) => string,
): string {
  if (off === undefined || off === 0) return '';
  return within === undefined || within === 0
    ? $localize`off by ${said(off)}`
    : $localize`at most ${said(off)} off, allowed ${said(within)}`;
}

/** Whether what a column is off is so much less than it may be that nobody need hear of it: the rounding of a log. */
const isTiny = (off: number | undefined, within: number | undefined): boolean =>
  off !== undefined && within !== undefined && 100 * off < within;
