import { present } from '../present.js';
import type { Change, CrossingFile, MovesetFile, Path } from '../model/index.js';
import { readMoveset, rename } from '../machine/index.js';
import type { KitPart } from './plan.js';

/** The sections of a moveset that a kit may add to, beside its lane. */
const SECTIONS: Path[] = [
  ['dials'],
  ['controls'],
  ['body', 'stances'],
  ['body', 'probes'],
  ['variables'],
  ['timers'],
  ['cooldowns'],
  ['tethers'],
  ['abilities'],
];

/**
 * The changes that take a kit into a lane of a moveset: what is not there yet under its new name, and the crossings
 * between it and what is there. A crossing between two states that are there, and that have one already, is left out.
 */
export function takeKit(
  file: MovesetFile,
  lane: number,
  kitText: string,
  plan: readonly KitPart[],
): Change[] {
  const kit = renamed(kitText, plan);
  const isThere = new Set(plan.filter((p) => p.isThere).map((p) => p.as));
  const target = present(file.lanes[lane]);
  const own = present(kit.lanes[0]);
  const changes: Change[] = SECTIONS.flatMap((path) =>
    Object.entries(section(kit, path))
      .filter(([name]) => !isThere.has(name))
      .map(([name, value]) => ({ path: [...path, name], value })),
  );
  const added = Object.entries(own.states).filter(([name]) => !isThere.has(name));
  const path: Path = ['lanes', lane];
  changes.push(...added.map(([name, value]) => ({ path: [...path, 'states', name], value })));
  const crossings = (own.crossings ?? []).filter((c) => !isKnown(target.crossings ?? [], c, isThere));
  if (crossings.length === 0) return changes;
  if ((target.crossings ?? []).length === 0)
    return [...changes, { path: [...path, 'crossings'], value: crossings }];
  const first = present(target.crossings).length;
  changes.push(
    ...crossings.map((value, i) => ({ path: [...path, 'crossings', first + i], value, insert: true })),
  );
  return changes;
}

/** The kit with every part under its new name. All take a name that nothing has first, for two may change places. */
function renamed(text: string, plan: readonly KitPart[]): MovesetFile {
  const steps = [
    ...plan.map((p, i) => ({ kind: p.kind, from: p.name, to: `kitPart${i}` })),
    ...plan.map((p, i) => ({ kind: p.kind, from: `kitPart${i}`, to: p.as })),
  ];
  let now = text;
  for (const { kind, from, to } of steps)
    now = rename(now, present(readMoveset(now).machine), kind, from, to);
  return present(readMoveset(now).file);
}

const section = (file: MovesetFile, path: Path): Record<string, unknown> =>
  (path.reduce<unknown>(
    (at, step) => (at as Record<string, unknown> | undefined)?.[String(step)],
    file,
  ) as Record<string, unknown>) ?? {};

/** Whether both ends are there already and some crossing leads from the one to the other. */
function isKnown(
  list: readonly CrossingFile[],
  crossing: CrossingFile,
  isThere: ReadonlySet<string>,
): boolean {
  const sources = [crossing.from].flat();
  if (![...sources, crossing.to].every((name) => name === '*' || isThere.has(name))) return false;
  return sources.every((source) =>
    list.some((c) => c.to === crossing.to && ([c.from].flat().includes(source) || c.from === '*')),
  );
}
