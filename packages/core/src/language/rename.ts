import { declaredIn, type Machine, type Occurrence, renamingSplices } from '../machine/index.js';
import { nameFault, type Source, type Splice } from '../model/index.js';
import { isReserved, type SymbolKind, WORDS } from '../notation/index.js';

/** Why a thing cannot have another name: things of a course, which a moveset only asks for. */
export const renamingFault = (kind: SymbolKind, name: string): string | undefined =>
  kind === 'zone' || kind === 'tag'
    ? `'${name}' is a tag of courses, expected something that the moveset declares`
    : name === 'gravity'
      ? "'gravity' is a word of the format, expected something that the moveset declares"
      : undefined;

/** Kinds whose names stand where those of a kind are looked for, and must differ from them; the others only from their own. */
const RIVALS: Partial<Record<SymbolKind, readonly SymbolKind[]>> = {
  button: ['button', 'axis', 'aim'],
  axis: ['button', 'axis', 'aim'],
  aim: ['button', 'axis', 'aim'],
  dial: ['dial', 'variable'],
  cooldown: ['cooldown', 'variable'],
  variable: ['dial', 'variable', 'cooldown'],
};
/**
 * Kinds whose names may be words of the notation: they stand only where such a name is looked for. In an expression no name
 * can be one of its operators.
 */
const APART: readonly SymbolKind[] = ['state', 'stance', 'probe', 'lane', 'event'];

/**
 * Why a thing of a moveset cannot be called so, as a sentence of what was found and what was expected; undefined when it can:
 * then the moveset still loads under the new name.
 */
export function newNameFault(
  machine: Machine,
  { kind, name }: { kind: SymbolKind; name: string },
  to: string,
): string | undefined {
  const fault = nameFault(to);
  if (fault !== undefined) return `found '${to}', ${fault}`;
  const isRead = machine.references.some(
    (use) => use.kind === kind && use.name === name && use.use === 'read',
  );
  if (APART.includes(kind) ? isRead && isReserved(to) : WORDS.has(to))
    return `found '${to}', which is a word of the notation, expected another name`;
  const rivals = RIVALS[kind] ?? [kind];
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
