import type { Difference, FieldDifference } from './differences.js';

/** A difference in words, a line for each field: `dial trotSpeed: 6 m/s → 7 m/s`. */
export function wordsOf({ kind, lane, name, what, was, fields }: Difference): string[] {
  const where = lane === undefined ? '' : ` in ${lane}`;
  const thing = kind === 'moveset' ? 'the moveset' : `${kind} ${name}${where}`;
  switch (what) {
    case 'renamed':
      return [`${kind} ${was ?? ''}${where} is now called ${name}`];
    case 'new':
      return [`new ${thing}${saysOf(fields, 'after')}`];
    case 'gone':
      return [`${thing} is gone${saysOf(fields, 'before')}`];
    case 'changed':
      return fields.map((field) => fieldWords(kind, thing, field));
  }
}

function fieldWords(
  kind: Difference['kind'],
  thing: string,
  { field, before, after }: FieldDifference,
): string {
  const title = kind === 'moveset' ? field : field === 'value' ? thing : `${thing}, ${field}`;
  return `${title}: ${before ?? 'left out'} → ${after ?? 'left out'}`;
}

/** What a crossing that came or went says. */
const saysOf = (fields: readonly FieldDifference[], side: 'before' | 'after'): string =>
  fields.length === 0 ? '' : `: ${fields.map((f) => `${f.field} ${f[side] ?? ''}`).join(', ')}`;
