import { present } from '../../present.js';
import {
  type Change,
  edit,
  parseSource,
  type Path,
  type Source,
  type Splice,
  spliceText,
} from '../../model/index.js';
import type { SymbolKind } from '../../notation/index.js';
import type { Machine, Reference } from '../definition/machine.js';
import { type Occurrence, occurrencesIn, usesIn } from './occurrences.js';

/** Every use of a name, its declaration apart. */
export const findUses = (machine: Machine, kind: SymbolKind, name: string): Reference[] =>
  machine.references.filter((use) => use.kind === kind && use.name === name);

/**
 * The text of a moveset in which a thing has another name, everywhere; nothing else of the text changes. The new name must be
 * free and well formed.
 */
export function rename(text: string, machine: Machine, kind: SymbolKind, from: string, to: string): string {
  const source = present(parseSource(text).source);
  const isMeant = (thing: { kind: SymbolKind; name: string }): boolean =>
    thing.kind === kind && thing.name === from;
  const renamed = spliceText(
    text,
    renamingSplices(source, occurrencesIn(source, machine).filter(isMeant), to),
  );
  const hidden = machine.references.filter((use) => isMeant(use) && usesIn(source, [use]).length === 0);
  return hidden.length === 0 ? renamed : edit(renamed, rewritten(machine, hidden, to));
}

/** What puts another name in the place of some occurrences of one. */
export const renamingSplices = (source: Source, occurrences: readonly Occurrence[], to: string): Splice[] =>
  occurrences.map(({ isWhole, start, end }) => {
    const needsQuotes = isWhole && isWordOfYaml(to) && !isQuoted(source, start);
    return { start, end, text: needsQuotes ? `"${to}"` : to };
  });

/** Names that YAML would take for something else when they stand alone. */
const isWordOfYaml = (name: string): boolean => /^(null|true|false)$/i.test(name);
const isQuoted = ({ text }: Source, start: number): boolean => /["']/.test(text.charAt(start - 1));

/** Texts in which a name cannot be pointed at, for they have escapes or several lines: written anew. */
function rewritten(machine: Machine, uses: readonly Reference[], to: string): Change[] {
  const values = new Map<string, { path: Path; value: string }>();
  // From the back of each text, so that earlier spans stay where they are.
  for (const { path, span } of [...uses].sort((a, b) => (b.span?.start ?? 0) - (a.span?.start ?? 0))) {
    const key = JSON.stringify(path);
    const before =
      values.get(key)?.value ?? machine.texts.find((t) => JSON.stringify(t.path) === key)?.text ?? '';
    const value = span === undefined ? to : before.slice(0, span.start) + to + before.slice(span.end);
    values.set(key, { path, value });
  }
  return [...values.values()];
}
