import type { NamedFact, PlainFact, ThingKind } from './facts.js';
import type { TextSpan } from './syntax.js';

/**
 * Every fact there is: those of the notation, a variable's value, and the time that a lane has been in its state, which
 * `elapsed` means in a crossing from several states.
 */
export type FactName = PlainFact | NamedFact | 'variable' | 'laneElapsed';

/** A fact as the checker resolved it: which one, of which thing, and for `hits` of which tag. */
export interface FactRef {
  readonly fact: FactName;
  readonly of?: string;
  readonly tag?: string;
}

/** What identifies a fact in maps. Nothing reads it back: whoever has an id finds the `FactRef` in the fact table. */
export const factId = (fact: FactName, of?: string, tag?: string): string =>
  of === undefined ? fact : tag === undefined ? `${fact}(${of})` : `${fact}(${of}, ${tag})`;

export const idOfRef = ({ fact, of, tag }: FactRef): string => factId(fact, of, tag);

/** What a name in a moveset can stand for. */
export type SymbolKind = ThingKind | 'dial' | 'variable' | 'tag' | 'lane';

/** A name inside a piece of notation, with what it stands for. */
export interface Mention {
  kind: SymbolKind;
  name: string;
  span: TextSpan;
}
