import { allEffects, type Machine } from '../../../machine/index.js';
import type { Path } from '../../../model/index.js';
import type { SymbolKind } from '../../../notation/index.js';
import { controlsOf } from '../../../scout/index.js';
import { createFinding, type Finding } from '../../sentences/finding.js';
import { BESIDE } from './subject.js';

/** TD1: what is declared and never read, named or listened to. */
export function unread(machine: Machine): Finding[] {
  const listened = new Set(controlsOf(machine).flat());
  const named = (kind: SymbolKind): ReadonlySet<string> =>
    new Set(
      machine.references
        .filter((r) => r.kind === kind && (r.use === 'read' || r.use === 'named'))
        .map((r) => r.name),
    );
  const none = <T extends { name: string; path: Path }>(
    kind: SymbolKind | 'control' | 'event',
    list: readonly T[],
    isUsed: (thing: T, index: number) => boolean,
  ): Finding[] =>
    list
      .filter((thing, i) => !isUsed(thing, i))
      .map(({ name, path }) => createFinding({ ...BESIDE, code: 'TD1', path, evidence: { kind, name } }));
  const unnamed = (kind: SymbolKind, list: readonly { name: string; path: Path }[]): Finding[] => {
    const names = named(kind);
    return none(kind, list, ({ name }) => names.has(name));
  };
  const stances = named('stance');
  const aims = named('aim');
  return [
    ...unnamed('dial', machine.dials),
    ...unnamed('variable', machine.variables),
    ...unnamed('timer', machine.timers),
    ...unnamed('cooldown', machine.cooldowns),
    ...unnamed('probe', machine.probes),
    // The first stance is the one that a body without states' stances has.
    ...none('stance', machine.stances, ({ name, hidden }, i) => hidden || i === 0 || stances.has(name)),
    ...unnamed('ability', machine.abilities),
    // An event is declared by what raises it.
    ...none(
      'event',
      machine.events.map((name) => ({ name, path: raisedAt(machine, name) })),
      ({ name }) => named('event').has(name),
    ),
    ...none('control', machine.controls, ({ name }, i) => listened.has(i) || aims.has(name)),
  ];
}

const raisedAt = (machine: Machine, event: string): Path =>
  allEffects(machine).find((e) => e.kind === 'raise' && machine.events[e.event] === event)?.path ?? [];
