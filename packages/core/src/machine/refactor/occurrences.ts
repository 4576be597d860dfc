import { nameStretch, type Path, type Source, stretchIn } from '../../model/index.js';
import type { SymbolKind } from '../../notation/index.js';
import type { Machine, Reference } from '../definition/machine.js';

/** A place of a text where a name stands: where the thing is declared, or one of its uses. */
export interface Occurrence {
  kind: SymbolKind;
  name: string;
  use: Reference['use'] | 'declared';
  path: Path;
  /** Where the name begins and ends in the text. */
  start: number;
  end: number;
  /** Whether it is the whole of a key or value. */
  isWhole: boolean;
}

/** What a moveset declares, by name, with the path of each. */
export const declaredIn = (machine: Machine): { kind: SymbolKind; name: string; path: Path }[] => {
  const of = (kind: SymbolKind, list: readonly { name: string; path: Path }[]) =>
    list.map(({ name, path }) => ({ kind, name, path }));
  return [
    ...machine.controls.flatMap((control) => of(control.kind, [control])),
    ...of('probe', machine.probes),
    ...of('timer', machine.timers),
    ...of('cooldown', machine.cooldowns),
    ...of('state', machine.states),
    ...of(
      'stance',
      machine.stances.filter((s) => !s.hidden),
    ),
    ...of('ability', machine.abilities),
    ...of('dial', machine.dials),
    ...of('variable', machine.variables),
    ...of('lane', machine.lanes),
    ...of('tether', machine.tethers),
  ];
};

/** Every place where a moveset has a name of its own in its text, in the order of the text. */
export function occurrencesIn(source: Source, machine: Machine): Occurrence[] {
  const declared = declaredIn(machine).flatMap(({ kind, name, path }): Occurrence[] => {
    const isLane = kind === 'lane';
    const at = isLane ? [...path, 'name'] : path;
    const stretch = nameStretch(source, at, !isLane);
    return stretch === undefined
      ? []
      : [{ kind, name, use: 'declared', path: at, isWhole: true, ...stretch }];
  });
  return [...declared, ...usesIn(source, machine.references)].sort((a, b) => a.start - b.start);
}

/** Where uses of names stand in the text; those that cannot be told apart from their surroundings are left out. */
export const usesIn = (source: Source, references: readonly Reference[]): Occurrence[] =>
  references.flatMap(({ kind, name, use, path, span }): Occurrence[] => {
    const stretch =
      span === undefined ? nameStretch(source, path, use === 'key') : stretchIn(source, path, span);
    if (stretch === undefined) return [];
    const all = nameStretch(source, path, use === 'key');
    const isWhole = all?.start === stretch.start && all.end === stretch.end;
    return [{ kind, name, use, path, isWhole, ...stretch }];
  });

/** The name that stands at an offset of the text. */
export const occurrenceAt = (occurrences: readonly Occurrence[], offset: number): Occurrence | undefined =>
  occurrences.find(({ start, end }) => start <= offset && offset <= end);
