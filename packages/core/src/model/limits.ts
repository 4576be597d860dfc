import { present } from '../present.js';
import type { Diagnostic, Path } from './diagnostics.js';
import { diagnosticAt, type Source } from './source.js';

/**
 * How many of each thing a document may have: ten times what anyone would draw by hand, and few enough that a document at
 * the limit is read and checked in seconds. A path's `*` stands for every key or index; counts of one noun add up.
 */
interface Limit {
  path: readonly string[];
  max: number;
  noun: string;
}

const limit = (path: string, max: number, noun: string): Limit => ({ path: path.split('.'), max, noun });

export const LIMITS: Record<'moveset' | 'course' | 'tape', readonly Limit[]> = {
  moveset: [
    limit('lanes', 32, 'lanes'),
    limit('lanes.*.crossings', 4000, 'crossings'),
    limit('dials', 1000, 'dials'),
    limit('controls', 100, 'controls'),
    limit('variables', 300, 'variables'),
    limit('timers', 300, 'timers'),
    limit('cooldowns', 300, 'cooldowns'),
    limit('tethers', 50, 'tethers'),
    limit('abilities', 200, 'abilities'),
    limit('settings', 100, 'settings to keep'),
    limit('accept', 1000, 'accepted findings'),
    limit('gameLog.columns', 200, 'columns of a log'),
    limit('gameLog.states.*', 1000, 'states of a log'),
    limit('body.stances', 100, 'stances'),
    limit('body.stances.*.parts', 50, 'parts of one stance'),
    limit('body.probes', 200, 'probes'),
  ],
  course: [
    limit('solids', 20_000, 'solids'),
    limit('oneWays', 5000, 'one-way platforms'),
    limit('movers', 200, 'movers'),
    limit('movers.*.path', 200, 'points of one path'),
    limit('zones', 2000, 'zones'),
    limit('anchors', 2000, 'anchors'),
    limit('spawns', 500, 'spawns'),
    limit('solids.*.points', 1000, 'corners of one outline'),
    limit('movers.*.points', 1000, 'corners of one outline'),
    limit('zones.*.points', 1000, 'corners of one outline'),
  ],
  tape: [
    limit('inputs', 100, 'controls'),
    limit('inputs.*', 20_000, 'spans of one control'),
    limit('marks', 1000, 'marks'),
    limit('expect', 1000, 'expectations'),
  ],
};

/** States of a moveset, in all lanes and groups; groups in groups. */
const MAX_STATES = 1000;
const MAX_DEPTH = 16;

/** What a document has too much of, at its place. Counted before anything is read: too much must not take long. */
export function beyondLimits(kind: keyof typeof LIMITS, value: object, source: Source): Diagnostic[] {
  const found: Diagnostic[] = [];
  const tell = (path: Path, count: number, max: number, noun: string): void => {
    found.push(diagnosticAt(source, path, `found ${count} ${noun}, expected at most ${max}`));
  };
  for (const { path, max, noun } of LIMITS[kind])
    for (const { at, count } of countsAt(value, path)) if (count > max) tell(at, count, max, noun);
  if (kind === 'moveset') {
    const lanes = (value as { lanes?: unknown }).lanes;
    const crossings = countsAt(value, ['lanes', '*', 'crossings']).reduce((sum, { count }) => sum + count, 0);
    const max = present(LIMITS.moveset[1]).max;
    if (crossings > max && found.length === 0) tell(['lanes'], crossings, max, 'crossings in all');
    const { count, depth } = countStates(lanes);
    if (count > MAX_STATES) tell(['lanes'], count, MAX_STATES, 'states in all lanes');
    if (depth > MAX_DEPTH) tell(['lanes'], depth, MAX_DEPTH, 'groups in each other');
  }
  return found;
}

const isObject = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null;

/** The collections that a pattern names, with how many are in each. */
function countsAt(value: unknown, pattern: readonly string[], at: Path = []): { at: Path; count: number }[] {
  if (!isObject(value)) return [];
  const [step, ...rest] = pattern;
  if (step === undefined) return [{ at, count: Object.keys(value).length }];
  if (step !== '*') return countsAt(value[step], rest, [...at, step]);
  const keys = Array.isArray(value) ? value.keys() : Object.keys(value);
  return [...keys].flatMap((key) =>
    countsAt((value as Record<string | number, unknown>)[key], rest, [...at, key]),
  );
}

/** The states in all lanes and groups, and how deep groups stand in groups; without recursion, for depth is no promise. */
function countStates(lanes: unknown): { count: number; depth: number } {
  let count = 0;
  let depth = 0;
  const waiting = Object.values(isObject(lanes) ? lanes : {}).map((lane) => ({ node: lane, level: 0 }));
  for (let next = waiting.pop(); next !== undefined; next = waiting.pop()) {
    const states = isObject(next.node) ? next.node['states'] : undefined;
    if (!isObject(states)) continue;
    const inner = Object.values(states);
    count += inner.length;
    depth = Math.max(depth, next.level);
    if (count > 100 * MAX_STATES) break;
    for (const node of inner) waiting.push({ node, level: next.level + 1 });
  }
  return { count, depth };
}
