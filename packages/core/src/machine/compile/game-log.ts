import { didYouMean, type Path } from '../../model/index.js';
import { LENGTH, PLAIN, SPEED } from '../../notation/index.js';
import type { GameLog } from '../definition/machine.js';
import { constantAt, type Context, fault, noteNamed } from './context.js';

/** What of a body a log can have, and beside that: `tick` counts from 0, `time` is in seconds. */
export const QUANTITIES = ['x', 'y', 'vx', 'vy', 'facing'] as const;
const LOGGED = ['tick', 'time', ...QUANTITIES] as const;

/** How the column of a lane's state is called. */
const stateColumn = (lane: string): string => `state:${lane}`;

/** A column as a header or a mapping writes it: its name, and its unit where there is one. */
export function columnText(text: string): { is: string; unit: string | undefined } {
  const [, is = text, unit] = /^\s*(.*?)\s*\[([^\]]*)\]\s*$/.exec(text) ?? [];
  return { is: is.trim(), unit: unit?.trim() };
}

/** Compiles how a log of the game is to be read; every name must be one of the moveset. */
export function compileGameLog(context: Context): GameLog {
  const { file } = context;
  const { columns = {}, states = {}, within = {} } = file.gameLog ?? {};
  const controls = Object.keys(file.controls ?? {});
  const lanes = file.lanes.map(({ name }) => name);
  const known = [...LOGGED, ...controls, ...lanes.map(stateColumn)];
  const check = (name: string, among: readonly string[], path: Path, key: boolean): boolean => {
    if (among.includes(name)) return true;
    const hint = didYouMean(name, among) || `, expected one of ${among.join(', ')}`;
    fault(context, path, `no column is called '${name}'${hint}`, { key });
    return false;
  };
  return {
    columns: new Map(
      Object.entries(columns).map(([name, text]) => {
        const path = ['gameLog', 'columns', name];
        const column = columnText(text);
        if (check(column.is, known, path, false)) noteColumn(context, column.is, text, path);
        return [name, column];
      }),
    ),
    states: new Map(
      Object.entries(states).map(([lane, names]) => {
        const path = ['gameLog', 'states', lane];
        if (!lanes.includes(lane))
          fault(context, path, `no lane is called '${lane}'${didYouMean(lane, lanes)}`, { key: true });
        else context.references.push({ kind: 'lane', name: lane, use: 'key', path, span: undefined });
        return [
          lane,
          new Map(Object.entries(names).map(([name, is]) => [name, statesOf(context, is, [...path, name])])),
        ];
      }),
    ),
    within: new Map(
      Object.entries(within).map(([name, text]) => {
        const path = ['gameLog', 'within', name];
        check(name, QUANTITIES, path, true);
        const dimension =
          name === 'x' || name === 'y' ? LENGTH : name === 'vx' || name === 'vy' ? SPEED : PLAIN;
        return [name, constantAt(context, text, path, dimension, 0)];
      }),
    ),
    pixel: context.scope.pixel,
  };
}

/** The states that a name of the game stands for. */
function statesOf(context: Context, is: string | readonly string[], path: Path): readonly string[] {
  const known = context.names.state;
  return [is].flat().map((state, i) => {
    const at = Array.isArray(is) ? [...path, i] : path;
    if (known.includes(state)) noteNamed(context, 'state', state, at);
    else fault(context, at, `no state is called '${state}'${didYouMean(state, known)}`);
    return state;
  });
}

/** Notes that a column is a control, or a lane's state, so that it is renamed with that. */
function noteColumn(context: Context, is: string, text: string, path: Path): void {
  const { names, references } = context;
  const [kind, name] = is.startsWith('state:')
    ? (['lane', is.slice('state:'.length)] as const)
    : ([(['button', 'axis', 'aim'] as const).find((k) => names[k].includes(is)), is] as const);
  if (kind === undefined) return;
  context.texts.push({ path, text });
  const start = text.indexOf(name, text.indexOf(is));
  references.push({ kind, name, use: 'named', path, span: { start, end: start + name.length } });
}
