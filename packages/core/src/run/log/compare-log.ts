import { isWithin, type Machine } from '../../machine/index.js';
import { present } from '../../present.js';
import type { World } from '../../world/index.js';
import { type Account, why } from '../why.js';
import type { TickRecord, Trace } from '../trace.js';
import type { GameLogData, LogColumn, Quantity } from './read-log.js';

/** How far one column of a log and the model are apart. */
export interface ColumnApart {
  /** Our name of it, such as `vx` or `state:legs`, and the game's. */
  is: string;
  name: string;
  unit: string;
  /** How far it may be off, in the unit; undefined for states, which must be the same. */
  within: number | undefined;
  /** Where it is further off for the first time. */
  first: { tick: number; game: string; model: string } | undefined;
  /** The furthest that it is off in any tick, and where; undefined for states. */
  most: { tick: number; off: number } | undefined;
  /** In how many ticks it is further off than it may be. */
  count: number;
}

/** A log of a game held against the model that had the same inputs. */
export interface LogComparison {
  columns: ColumnApart[];
  /** The first tick in which some column is further off than it may be, and the columns that are so there. */
  first: { tick: number; columns: string[] } | undefined;
  /** How many ticks were compared; fewer than the log has when the model's run stopped. */
  ticks: number;
}

const WITHIN: Record<Quantity, number> = { x: 0.01, y: 0.01, vx: 0.05, vy: 0.05, facing: 0 };
const UNITS: Record<Quantity, string> = { x: 'm', y: 'm', vx: 'm/s', vy: 'm/s', facing: '' };

/** Holds a log against a run of the same inputs. */
export function compareLog(trace: Trace, log: GameLogData): LogComparison {
  const { machine, records } = trace;
  const ticks = Math.min(records.length, log.inputs.length);
  const columns = log.columns.map((column) =>
    column.kind === 'number'
      ? numberApart(machine, records, column, ticks)
      : stateApart(machine, records, column, ticks),
  );
  const firsts = columns.flatMap(({ first }) => (first === undefined ? [] : [first.tick]));
  const tick = Math.min(...firsts);
  return {
    columns,
    ticks,
    first:
      firsts.length === 0
        ? undefined
        : { tick, columns: columns.filter((c) => c.first?.tick === tick).map((c) => c.is) },
  };
}

const modelValue = ({ body, facing }: TickRecord, is: Quantity): number =>
  is === 'facing' ? facing : body[is];

/** Enough digits to see a difference, and no more. */
const said = (value: number): string => String(Number(value.toPrecision(6)));

function numberApart(
  machine: Machine,
  records: readonly TickRecord[],
  { is, name, values }: Extract<LogColumn, { kind: 'number' }>,
  ticks: number,
): ColumnApart {
  const within = machine.gameLog.within.get(is) ?? WITHIN[is];
  let first: ColumnApart['first'];
  let most: ColumnApart['most'];
  let count = 0;
  for (let tick = 0; tick < ticks; tick++) {
    const game = present(values[tick]);
    if (Number.isNaN(game)) continue;
    const model = modelValue(present(records[tick]), is);
    const off = Math.abs(game - model);
    if (most === undefined || off > most.off) most = { tick, off };
    if (off <= within) continue;
    count++;
    first ??= { tick, game: said(game), model: said(model) };
  }
  return { is, name, unit: UNITS[is], within, first, most, count };
}

function stateApart(
  machine: Machine,
  records: readonly TickRecord[],
  { lane, name, said: cells, states }: Extract<LogColumn, { kind: 'state' }>,
  ticks: number,
): ColumnApart {
  let first: ColumnApart['first'];
  let count = 0;
  for (let tick = 0; tick < ticks; tick++) {
    const allowed = present(states[tick]);
    const leaf = present(present(records[tick]).leaves[lane]);
    if (allowed.length === 0 || allowed.some((state) => isWithin(machine, leaf, state))) continue;
    count++;
    first ??= { tick, game: present(cells[tick]), model: present(machine.states[leaf]).name };
  }
  const is = `state:${present(machine.lanes[lane]).name}`;
  return { is, name, unit: '', within: undefined, first, most: undefined, count };
}

/** Why the model is where it is where a log parts from it first; nothing where it does not. */
export function reasonsOf(trace: Trace, world: World, { first }: LogComparison): string[] {
  if (first === undefined) return [];
  const account = why(trace, world, first.tick);
  const record = present(trace.records[first.tick]);
  return [...new Set(first.columns.flatMap((is) => reasonsFor(account, record, is)))];
}

/**
 * Why the model is where it is in a tick, as far as a column is about it; one plain line each. `account` is that of the
 * tick of the record.
 */
function reasonsFor(account: Account, record: TickRecord, is: string): string[] {
  if (is.startsWith('state:')) {
    const lane = account.lanes.find((l) => l.lane === is.slice('state:'.length));
    return lane === undefined ? [] : laneReasons(lane);
  }
  const changes = account.lanes.filter((l) => l.before !== l.after).flatMap(laneReasons);
  const channel = is === 'x' || is === 'vx' ? 'vx' : is === 'y' || is === 'vy' ? 'vy' : 'facing';
  const writes = account.writes.filter((w) => w.channel === channel && !w.lost);
  const unit = channel === 'facing' ? '' : ' m/s';
  return [
    ...changes,
    ...writes.map((w) => `In the model ${w.by} makes ${channel} ${said(w.value)}${unit}.`),
    ...(channel === 'facing' ? [] : metReasons(record, channel, writes[writes.length - 1]?.value)),
  ];
}

/** What the move did to a velocity that the rules had left. */
function metReasons(
  { body, contacts }: TickRecord,
  channel: 'vx' | 'vy',
  ruled: number | undefined,
): string[] {
  const met = contacts.length === 0 ? 'Nothing is touched there' : 'What it touches there';
  if (ruled === undefined)
    return [`In the model no rule writes ${channel} in this tick; it is ${said(body[channel])} m/s.`];
  if (said(body[channel]) !== said(ruled))
    return [`In the model what it meets then makes ${channel} ${said(body[channel])} m/s.`];
  return [contacts.length === 0 ? `${met}.` : `${met} leaves that as it is.`];
}

function laneReasons({ lane, before, after, crossings }: Account['lanes'][number]): string[] {
  const taken = crossings.find((c) => c.verdict === 'taken');
  if (taken !== undefined)
    return [
      `In the model ${lane} goes from ${before} to ${after}${taken.guard === undefined ? '' : `: ${taken.guard.text}`}.`,
    ];
  const open = crossings.flatMap((c) => (c.remark === undefined ? [] : [`${before} → ${c.to}: ${c.remark}`]));
  return [`In the model ${lane} stays in ${before}: no way out of it is taken.`, ...open];
}
