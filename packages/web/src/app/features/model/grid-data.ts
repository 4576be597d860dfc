import { constantFacts, type Finding, waysIn, waysOut } from '@glenmark/core/findings';
import { type Crossing, leafFrom, type Machine, type StateKind } from '@glenmark/core/machine';
import { print } from '@glenmark/core/notation';
import { effectLine } from '../../shared/document/edits';
import { type GuardWord, guardWord } from './guard-word';
import { shortGuard } from './short-guard';

/** The from × to grid of one lane as data: what each row, column and cell shows. */
export interface Grid {
  lane: number;
  heads: Head[];
  rows: Row[];
}

export interface Head {
  name: string;
  kind: StateKind;
  group: boolean;
  depth: number;
  start: boolean;
  waysIn: number;
  /** In red: nobody can enter it. */
  closed: boolean;
}

export interface Row {
  /** The state or group the row's crossings leave; `*` for everywhere. */
  name: string;
  kind: StateKind | undefined;
  group: boolean;
  depth: number;
  waysOut: number;
  sealed: boolean;
  cells: Cell[];
}

export interface Cell {
  from: string;
  to: string;
  self: boolean;
  /** Whether it is one of several that tie in its row, or lies between them. */
  joined: boolean;
  chips: Chip[];
}

export interface Chip {
  index: number;
  text: string;
  /** In full, with what the solver says: asked when it is shown, for a large grid shows few of its crossings. */
  readonly title: string;
  rank: number;
  effects: boolean;
  /** Whether it can never be taken; asked as late. */
  readonly never: boolean;
  tie: boolean;
  /** Whether the last scouting took it; undefined when there was none. */
  used: boolean | undefined;
}

/** `used` are the crossings of the lane, by index, that a scouting took; undefined when none says. */
export function buildGrid(
  machine: Machine,
  lane: number,
  findings: readonly Finding[],
  used?: ReadonlySet<number>,
): Grid {
  const { crossings, states, name, initial } = machine.lanes[lane]!;
  const constants = constantFacts(machine);
  const mine = findings.filter((f) => f.lane === name);
  // Each tie by the crossings that are in it.
  const ties = mine.flatMap((f) =>
    f.code === 'AG1' ? [new Set(f.evidence.crossings.map((c) => c.index))] : [],
  );
  const start = leafFrom(machine, initial);
  const depth = (index: number): number =>
    machine.states[index]!.parent < 0 ? 0 : 1 + depth(machine.states[index]!.parent);
  const chipOf = (crossing: Crossing): Chip => {
    let known: GuardWord | undefined;
    const word = (): GuardWord => (known ??= guardWord(machine, crossing, constants));
    return {
      index: crossing.index,
      text: shortGuard(crossing.when),
      get title() {
        return titleOf(crossing, word().text);
      },
      rank: crossing.rank,
      effects: crossing.do.length > 0,
      get never() {
        return word().never;
      },
      tie: ties.some((tie) => tie.has(crossing.index)),
      used: used?.has(crossing.index),
    };
  };
  const heads = states.map((index): Head => {
    const { name, kind, members } = machine.states[index]!;
    const group = members.length > 0;
    const count = group
      ? crossings.filter((c) => c.to === index).length
      : waysIn(machine, crossings, index).length;
    const closed = mine.some((f) => f.state === name && /^IN[123]$/.test(f.code));
    return { name, kind, group, depth: depth(index), start: index === start, waysIn: count, closed };
  });
  const rowFor = (name: string, from: number | undefined, head: Head | undefined): Row => {
    const leaving = crossings.filter((c) =>
      from === undefined ? c.from.length === 0 : c.from.includes(from),
    );
    const isLeaf = head !== undefined && !head.group;
    // From the first to the last of the columns of each tie.
    const spans = ties.flatMap((tie) => {
      const tied = leaving.filter((c) => tie.has(c.index)).map((c) => states.indexOf(c.to));
      return tied.length > 1 ? [[Math.min(...tied), Math.max(...tied)] as const] : [];
    });
    return {
      name,
      kind: head?.kind,
      group: head?.group ?? false,
      depth: head?.depth ?? 0,
      waysOut: isLeaf ? waysOut(machine, crossings, from!).length : leaving.length,
      sealed: mine.some((f) => f.state === name && f.code === 'OUT1'),
      cells: heads.map(({ name: to }, i) => ({
        from: name,
        to,
        self: from === states[i],
        joined: spans.some(([first, last]) => i >= first && i <= last),
        chips: leaving.filter((c) => c.to === states[i]).map(chipOf),
      })),
    };
  };
  const rows = states.map((index, i) => rowFor(heads[i]!.name, index, heads[i]));
  if (crossings.some((c) => c.from.length === 0)) rows.push(rowFor('*', undefined, undefined));
  return { lane, heads, rows };
}

/** A crossing in full, with what the solver says of it. */
const titleOf = ({ when, do: effects }: Crossing, word: string): string =>
  [
    when === undefined ? $localize`always open` : print(when.syntax),
    ...(effects.length === 0 ? [] : [effectLine(effects)]),
    word,
  ].join('\n');

/** The accessible name of a cell: where from, where to, and its crossings. */
export function cellLabel(cell: Cell): string {
  const from = cell.from === '*' ? $localize`everywhere` : cell.from;
  const chips = cell.chips.map(
    (c) =>
      `${c.text}${c.rank === 0 ? '' : $localize`, rank ${c.rank}`}${c.never ? $localize`, can never be taken` : ''}${c.tie ? $localize`, ties` : ''}`,
  );
  return $localize`${from} to ${cell.to}\: ${chips.length === 0 ? $localize`no crossing` : chips.join('; ')}`;
}
