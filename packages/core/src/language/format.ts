import { isScalar, parseDocument } from 'yaml';
import type { Machine } from '../machine/index.js';
import { laidOutAs } from '../model/index.js';
import { parseEffect, parseExpression, print, printEffect } from '../notation/index.js';

/**
 * A moveset, course or tape laid out afresh: two spaces a level, and the notation in its canonical form where the machine of
 * the moveset knows a text to be notation. Comments, quotes, brackets, the order of keys and what it means stay. The text
 * itself when it is not readable as YAML.
 */
export function formatted(text: string, machine: Machine | undefined): string {
  const document = parseDocument(text, { keepSourceTokens: true });
  if (document.errors.length > 0) return text;
  for (const { path, text: written } of machine?.texts ?? []) {
    const node = document.getIn(path, true);
    if (!isScalar(node) || typeof node.value !== 'string' || node.value !== written) continue;
    const canonical = canonicalOf(written);
    if (canonical !== undefined && canonical !== written) node.value = canonical;
  }
  return laidOutAs(text, document.toString({ lineWidth: 0, flowCollectionPadding: true }));
}

/** A piece of notation as the notation prints it; undefined for what is none. */
function canonicalOf(text: string): string | undefined {
  const expression = parseExpression(text);
  if (expression.ok) return print(expression.value);
  const effect = parseEffect(text);
  return effect.ok ? printEffect(effect.value) : undefined;
}
