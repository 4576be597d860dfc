import { UNIT_NAMES } from './dimension.js';
import { FACTS, FACTS_OF, FUNCTIONS } from './facts.js';
import { RESERVED } from './lex.js';

/** Every word that means something in the notation by itself: no value, control or clock can be called so. */
export const WORDS: ReadonlySet<string> = new Set([
  ...RESERVED,
  ...UNIT_NAMES,
  ...Object.keys(FACTS),
  ...Object.keys(FACTS_OF),
  ...Object.keys(FUNCTIONS),
  'gravity',
]);
