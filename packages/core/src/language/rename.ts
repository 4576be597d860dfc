import { declaredIn, type Machine, type Occurrence, renamingSplices } from '../machine/index.js';
import { nameFault, type Source, type Splice } from '../model/index.js';
import { type SymbolKind, WORDS } from '../notation/index.js';

/** Why a thing cannot have another name: things of a course, which a moveset only asks for. */
export const renamingFault = (kind: SymbolKind, name: string): string | undefined =>
  kind === 'zone' || kind === 'tag'
    ? `'${name}' is a tag of courses, expected something that the moveset declares`
    : name === 'gravity'
      ? "'gravity' is a word of the format, expected something that the moveset declares"
      : undefined;

/** Kinds whose names stand in one section, or in one place of the notation, and must differ. */
const SHARED: readonly (readonly SymbolKind[])[] = [
  ['button', 'axis', 'aim'],
  ['dial', 'variable', 'cooldown'],
];
/** Kinds whose names may be words of the notation: they stand only where such a name is looked for. */
const APART: readonly SymbolKind[] = ['state', 'stance', 'probe', 'lane', 'event'];

/**
 * Why a thing of a moveset cannot be called so, as a sentence of what was found and what was expected; undefined when it can:
 * then the moveset still loads under the new name.
 */
export function newNameFault(machine: Machine, kind: SymbolKind, to: string): string | undefined {
  const fault = nameFault(to);
  if (fault !== undefined) return `found '${to}', ${fault}`;
  if (!APART.includes(kind) && WORDS.has(to))
    return `found '${to}', which is a word of the notation, expected another name`;
  const rivals = SHARED.find((kinds) => kinds.includes(kind)) ?? [kind];
  const isTaken =
    declaredIn(machine).some((thing) => thing.name === to && rivals.includes(thing.kind)) ||
    machine.references.some((use) => use.name === to && rivals.includes(use.kind));
  return isTaken
    ? `found '${to}', which is the name of something else already, expected a free name`
    : undefined;
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
