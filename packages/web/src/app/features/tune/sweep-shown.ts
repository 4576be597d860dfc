import type { Axis, Swept } from '@glenmark/core/tune';
import { shortValue } from './ranges';

/** Places next to each other in which all expectations hold: from one to the other, both among them. */
export interface Band {
  from: number;
  to: number;
}

/** Whether all expectations are met at a place. */
export const holds = ({ missed, wrong }: Swept): boolean => wrong === undefined && missed.length === 0;

/** The bands of a list of places. */
export function bandsOf(list: readonly boolean[]): Band[] {
  const bands: Band[] = [];
  list.forEach((isIn, i) => {
    if (!isIn) return;
    const last = bands.at(-1);
    if (last?.to === i - 1) last.to = i;
    else bands.push({ from: i, to: i });
  });
  return bands;
}

/** A line between two cells of a map, in places: it stands before `x` or under `y`, where a truth changes. */
export interface Edge {
  x1: number;
  y1: number;
  x2: number;
  y2: number;
}

/** The edges between cells in which something is so and cells in which it is not; cells are asked by column and row. */
export function edgesOf(columns: number, rows: number, isSo: (x: number, y: number) => boolean): Edge[] {
  const edges: Edge[] = [];
  for (let x = 0; x < columns; x++)
    for (let y = 0; y < rows; y++) {
      if (x > 0 && isSo(x, y) !== isSo(x - 1, y))
        edges.push({ x1: x - 0.5, y1: y - 0.5, x2: x - 0.5, y2: y + 0.5 });
      if (y > 0 && isSo(x, y) !== isSo(x, y - 1))
        edges.push({ x1: x - 0.5, y1: y - 0.5, x2: x + 0.5, y2: y - 0.5 });
    }
  return edges;
}

/** The value of a dial at a place of its axis. */
export const valueAt = ({ from, to, places }: Axis, place: number): number =>
  place === places - 1 ? to : from + ((to - from) * place) / (places - 1);

/** The nearest place of an axis to a value. */
export const placeOf = ({ from, to, places }: Axis, value: number): number =>
  Math.max(0, Math.min(places - 1, Math.round(((value - from) / (to - from)) * (places - 1))));

/** What is so at a place, in words: what the dials are at, what it comes to, and what is missed there. */
export function placeWords(
  swept: Swept,
  axes: readonly Axis[],
  units: readonly string[],
  outcome: string,
): string {
  const at = axes
    .map(({ dial }, i) => `${dial} ${shortValue(swept.setting[dial] ?? NaN, 4)} ${units[i] ?? ''}`.trim())
    .join(', ');
  if (swept.wrong !== undefined) return $localize`${at}\: does not load, ${swept.wrong}`;
  const [first, ...others] = swept.missed;
  const missed =
    first === undefined
      ? $localize`all as expected`
      : others.length === 0
        ? $localize`not as expected\: ${first}`
        : $localize`not as expected\: ${first}, and ${others.length} more`;
  const begun = swept.begun?.[0];
  return `${at}: ${outcome}; ${missed}${begun === undefined ? '' : $localize`; found there\: ${begun}`}`;
}
