import {
  declaredIn,
  type Machine,
  type Occurrence,
  readMoveset,
  rename,
  renamingSplices,
} from '../machine/index.js';
import { errorsOf, NAME, type Source, type Splice } from '../model/index.js';
import type { SymbolKind } from '../notation/index.js';

/** Why a thing cannot have another name: things of a course, which a moveset only asks for. */
export const renamingFault = (kind: SymbolKind, name: string): string | undefined =>
  kind === 'zone' || kind === 'tag'
    ? `'${name}' is a tag of courses, expected something that the moveset declares`
    : name === 'gravity'
      ? "'gravity' is a word of the format, expected something that the moveset declares"
      : undefined;

/**
 * Why a thing of a moveset cannot be called so, as a sentence of what was found and what was expected; undefined when it can:
 * the name must be well formed and free, and with it the moveset must load.
 */
export function newNameFault(
  text: string,
  machine: Machine,
  { kind, name }: Pick<Occurrence, 'kind' | 'name'>,
  to: string,
): string | undefined {
  if (!NAME.test(to))
    return `found '${to}', expected a name: letters, digits and underscores, not starting with a digit`;
  const isTaken =
    declaredIn(machine).some((thing) => thing.name === to) ||
    machine.references.some((use) => use.kind === kind && use.name === to);
  if (isTaken) return `found '${to}', which is the name of something else already, expected a free name`;
  const [fault] = errorsOf(readMoveset(rename(text, machine, kind, name, to)).diagnostics);
  return fault?.message;
}

/** What gives a thing another name in one text, where it stands. */
export const renamedIn = (
  source: Source,
  occurrences: readonly Occurrence[],
  { kind, name }: Pick<Occurrence, 'kind' | 'name'>,
  to: string,
): Splice[] =>
  renamingSplices(
    source,
    occurrences.filter((each) => each.kind === kind && each.name === name),
    to,
  );
