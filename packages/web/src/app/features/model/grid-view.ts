import type { Cell, Chip, Grid, Head } from './grid-data';

/** What of a grid is shown: states whose names hold the text, and groups without their members. */
export interface GridView {
  filter: string;
  folded: ReadonlySet<string>;
}

/** The states under each group of a grid, by the group's name. */
export function membersOf(heads: readonly Head[]): Map<string, string[]> {
  return new Map(
    heads.flatMap((head, i) => {
      if (!head.group) return [];
      const after = heads.slice(i + 1);
      const end = after.findIndex((h) => h.depth <= head.depth);
      return [[head.name, after.slice(0, end < 0 ? after.length : end).map((h) => h.name)] as const];
    }),
  );
}

/**
 * The part of a grid that is shown. The row and the column of a folded group hold its members' crossings too, each
 * once. With a filter, what it matches stays, with the groups that it lies in; all of it when nothing matches.
 */
export function gridView(grid: Grid, { filter, folded }: GridView): Grid {
  const members = membersOf(grid.heads);
  const hidden = new Set([...members].flatMap(([group, own]) => (folded.has(group) ? own : [])));
  const words = filter.toLowerCase().split(/\s+/).filter(Boolean);
  const matches = (name: string): boolean =>
    words.length === 0 || words.some((w) => name.toLowerCase().includes(w));
  const matched = grid.heads.filter((h) => matches(h.name)).map((h) => h.name);
  const kept = new Set([
    ...matched,
    ...[...members].flatMap(([group, own]) => (own.some((m) => matched.includes(m)) ? [group] : [])),
  ]);
  const isShown = (name: string): boolean =>
    !hidden.has(name) && (kept.size === 0 || kept.has(name) || name === '*');
  // A folded group inside another that is folded is hidden with it.
  const within = (name: string): string[] => [name, ...(folded.has(name) ? (members.get(name) ?? []) : [])];
  const rows = grid.rows
    .filter((row) => isShown(row.name))
    .map((row) => {
      const from = within(row.name);
      const own = grid.rows.filter((r) => from.includes(r.name));
      const cells = row.cells
        .filter((cell) => isShown(cell.to))
        .map((cell): Cell => {
          const to = within(cell.to);
          const chips = own.flatMap((r) => r.cells.filter((c) => to.includes(c.to)).flatMap((c) => c.chips));
          return from.length + to.length === 2 ? cell : { ...cell, chips: eachOnce(chips) };
        });
      return { ...row, cells };
    });
  return { ...grid, heads: grid.heads.filter((h) => isShown(h.name)), rows };
}

const eachOnce = (chips: readonly Chip[]): Chip[] =>
  chips.filter((chip, i) => chips.findIndex((c) => c.index === chip.index) === i);

/** The cells of the rectangle between two, both included; none when one of them is not shown. */
export function cellsBetween(
  grid: Grid,
  a: { from: string; to: string },
  b: { from: string; to: string },
): Cell[] {
  const row = (name: string): number => grid.rows.findIndex((r) => r.name === name);
  const column = (name: string): number => grid.heads.findIndex((h) => h.name === name);
  const [top, bottom] = [row(a.from), row(b.from)].sort((x, y) => x - y) as [number, number];
  const [left, right] = [column(a.to), column(b.to)].sort((x, y) => x - y) as [number, number];
  if (top < 0 || left < 0) return [];
  return grid.rows.slice(top, bottom + 1).flatMap((r) => r.cells.slice(left, right + 1));
}

/**
 * How many places a row goes among its siblings when it is put at another place among the rows that are shown; `all`
 * are those that are not shown too.
 */
export function placesMoved(
  shown: readonly string[],
  all: readonly string[],
  name: string,
  index: number,
  isSibling: (name: string) => boolean,
): number {
  const others = shown.filter((row) => row !== name);
  const before = others.slice(0, index).findLast(isSibling);
  const after = others.slice(index).find(isSibling);
  const siblings = all.filter(isSibling);
  const rest = siblings.filter((row) => row !== name);
  const place =
    after !== undefined ? rest.indexOf(after) : before !== undefined ? rest.indexOf(before) + 1 : 0;
  return place - siblings.indexOf(name);
}
