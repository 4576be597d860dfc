import type { Program, Term } from './program.js';

type NumberTerm = Extract<Term, { kind: 'number' }>;

/** A program in which each term stands in one place only, so that each of its numbers can be told from all others. */
export function unshared(program: Program): Program {
  const copied = <T>(part: T): T => {
    if (typeof part !== 'object' || part === null) return part;
    if (Array.isArray(part)) return part.map(copied) as T;
    return Object.fromEntries(Object.entries(part).map(([key, inner]) => [key, copied(inner)])) as T;
  };
  return copied(program);
}

/**
 * The numbers in which another program differs from an unshared one, by the term of that: all there is to tell, for the
 * same moveset with its dials turned. Undefined when more than numbers differs.
 */
export function numbersApart(one: Program, other: Program): Map<Term, number> | undefined {
  const apart = new Map<Term, number>();
  const alike = (a: unknown, b: unknown): boolean => {
    if (typeof a !== 'object' || a === null) return Object.is(a, b);
    if (typeof b !== 'object' || b === null) return false;
    if (Array.isArray(a)) {
      if (!Array.isArray(b) || a.length !== b.length) return false;
      for (let i = 0; i < a.length; i++) if (!alike(a[i], b[i])) return false;
      return true;
    }
    const [term, counterpart] = [a as NumberTerm, b as NumberTerm];
    if (term.kind === 'number' && counterpart.kind === 'number') {
      if (!Object.is(term.value, counterpart.value)) apart.set(term, counterpart.value);
      return true;
    }
    // What is of one kind has the same fields: the kind is one of them.
    for (const key in a) if (!alike(a[key as keyof typeof a], b[key as keyof typeof b])) return false;
    return true;
  };
  return alike(one, other) ? apart : undefined;
}
