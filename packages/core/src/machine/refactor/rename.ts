import { type Change, edit, type Path, renameKey } from '../../model/index.js';
import type { SymbolKind } from '../../notation/index.js';
import type { Machine, Reference } from '../definition/machine.js';

/** Every use of a name, its declaration apart. */
export const findUses = (machine: Machine, kind: SymbolKind, name: string): Reference[] =>
  machine.references.filter((use) => use.kind === kind && use.name === name);

/** The text of a moveset in which a thing has another name, everywhere. The new name must be free and well formed. */
export function rename(text: string, machine: Machine, kind: SymbolKind, from: string, to: string): string {
  const texts = new Map(machine.texts.map((place) => [JSON.stringify(place.path), place.text]));
  const changes = new Map<string, { path: Path; value: string }>();
  // From the back of each text, so that earlier spans stay where they are.
  const all = findUses(machine, kind, from);
  const uses = all
    .filter(({ use }) => use !== 'key')
    .sort((a, b) => (b.span?.start ?? 0) - (a.span?.start ?? 0));
  for (const { path, span } of uses) {
    const key = JSON.stringify(path);
    const before = changes.get(key)?.value ?? texts.get(key) ?? '';
    changes.set(key, {
      path,
      value: span === undefined ? to : before.slice(0, span.start) + to + before.slice(span.end),
    });
  }
  const values = edit(
    text,
    [...changes.values()].map(({ path, value }): Change => ({ path, value })),
  );
  const edited = all
    .filter(({ use }) => use === 'key')
    .reduce((after, { path }) => renameKey(after, path, to), values);
  const declared = declarationOf(machine, kind, from);
  if (declared === undefined) return edited;
  return kind === 'lane'
    ? edit(edited, [{ path: [...declared, 'name'], value: to }])
    : renameKey(edited, declared, to);
}

function declarationOf(machine: Machine, kind: SymbolKind, name: string): Path | undefined {
  const lists: Record<SymbolKind, readonly { name: string; path: Path }[]> = {
    button: machine.controls,
    axis: machine.controls,
    aim: machine.controls,
    probe: machine.probes,
    timer: machine.timers,
    cooldown: machine.cooldowns,
    state: machine.states,
    stance: machine.stances,
    ability: machine.abilities,
    dial: machine.dials,
    variable: machine.variables,
    lane: machine.lanes,
    event: [],
    zone: [],
    tag: [],
    tether: machine.tethers,
  };
  return lists[kind].find((thing) => thing.name === name)?.path;
}
