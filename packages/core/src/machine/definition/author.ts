import { present } from '../../present.js';
import type { Channel, Machine } from './machine.js';

/** What of a state, or of a zone of the course, writes to a channel. */
export type AuthorKind =
  | 'do'
  | 'exit'
  | 'enter'
  | 'each'
  | 'stance'
  | 'hold'
  | 'drive'
  | 'push'
  | 'gravity'
  | 'slip'
  | 'tether'
  | 'drag'
  | 'launch'
  | 'wind';

/** Who wrote to a channel. */
export interface Author {
  kind: AuthorKind;
  /** −1 for a zone, and for gravity that no state says anything about. */
  lane: number;
  /** The state; for `do` the one that was left. −1 for a zone and for plain gravity. */
  state: number;
  /** For `do` the state that was entered; −1 for the rest. */
  to: number;
  /** The name of the zone, where it is one. */
  zone?: string;
}

/** One write to a channel, in the order they happened. `value` is what the channel held afterwards. */
export interface Write {
  channel: Channel;
  author: Author;
  /** True when the write replaces what was there, false when it builds on it. */
  replaces: boolean;
  value: number;
}

/** An author for people: `Trot → Rise do`, `Slide drive`, `gap wind wind`. */
export function authorText(machine: Machine, { kind, state, to, zone }: Author): string {
  if (zone !== undefined) return `${zone} ${kind}`;
  const name = (index: number): string => present(machine.states[index]).name;
  if (state < 0) return kind;
  return kind === 'do' ? `${name(state)} → ${name(to)} do` : `${name(state)} ${kind}`;
}
