import { type Statement, type Term, terms } from '../machine/index.js';
import { mapTerm, seeStatements, seeTerm, termsOf } from './walk.js';

const { all, any, isAlways, isNever, not } = terms;

/** A term with what is settled beforehand left out: conditions that always or never hold. */
export const tidyTerm = (term: Term): Term =>
  mapTerm(term, (t) => {
    switch (t.kind) {
      case 'all': {
        const parts = t.of.flatMap((part) => (part.kind === 'all' ? part.of : [part]));
        return parts.some(isNever)
          ? any()
          : parts.length === 1 && parts[0] !== undefined
            ? parts[0]
            : all(...parts);
      }
      case 'any': {
        const parts = t.of.flatMap((part) => (part.kind === 'any' ? part.of : [part]));
        return parts.some(isAlways)
          ? all()
          : parts.length === 1 && parts[0] !== undefined
            ? parts[0]
            : any(...parts);
      }
      case 'not':
        return isAlways(t.of) ? any() : isNever(t.of) ? all() : t.of.kind === 'not' ? t.of.of : not(t.of);
      case 'choice':
        return isAlways(t.when) ? t.then : isNever(t.when) ? t.otherwise : t;
      default:
        return t;
    }
  });

/** Statements with their terms tidied, and without those that never run or have nothing to do. */
export function tidy(list: readonly Statement[]): Statement[] {
  const now = list.flatMap(tidyStatement);
  // A block that is all there is need be none.
  const origins = now.filter((s) => s.kind === 'tell');
  const [only, ...others] = now.slice(origins.length);
  return only?.kind === 'block' && others.length === 0 ? [...origins, ...only.body] : now;
}

function tidyStatement(statement: Statement): Statement[] {
  switch (statement.kind) {
    case 'let':
    case 'set':
      return [{ ...statement, value: tidyTerm(statement.value) }];
    case 'block': {
      const body = tidy(statement.body);
      return hasWork(body) ? [{ ...statement, body }] : [];
    }
    case 'if': {
      const when = tidyTerm(statement.when);
      const [then, otherwise] = [tidy(statement.then), tidy(statement.otherwise)];
      if (isAlways(when)) return then;
      if (isNever(when)) return otherwise;
      if (hasWork(then))
        return [{ ...statement, when, then, otherwise: hasWork(otherwise) ? otherwise : [] }];
      return hasWork(otherwise)
        ? [{ ...statement, when: tidyTerm(not(when)), then: otherwise, otherwise: [] }]
        : [];
    }
    case 'switch': {
      const otherwise = tidy(statement.otherwise);
      const cases = statement.cases.map(({ of, body }) => ({ of, body: tidy(body) }));
      const kept = hasWork(otherwise) ? cases : cases.filter(({ body }) => hasWork(body));
      return kept.length === 0
        ? otherwise
        : [{ ...statement, on: tidyTerm(statement.on), cases: kept, otherwise }];
    }
    case 'repeat':
      return [{ ...statement, while: tidyTerm(statement.while), body: tidy(statement.body) }];
    case 'tell':
      return statement.what.kind === 'gravity'
        ? [{ ...statement, what: { ...statement.what, scale: tidyTerm(statement.what.scale) } }]
        : statement.what.kind === 'origin'
          ? [statement]
          : [];
    default:
      return [statement];
  }
}

/** Whether some statement of a list does more than say where it comes from. */
export const hasWork = (list: readonly Statement[]): boolean =>
  list.some((s) => s.kind !== 'tell' || s.what.kind !== 'origin');

/** What some statement reads: locals by name, registers by index, fields by place, facts by slot. */
export interface Reads {
  locals: Set<string>;
  registers: Set<number>;
  fields: Set<number>;
  facts: Set<number>;
}

/** All that statements read. */
export function readsIn(lists: readonly (readonly Statement[])[]): Reads {
  const reads: Reads = { locals: new Set(), registers: new Set(), fields: new Set(), facts: new Set() };
  for (const list of lists)
    seeStatements(list, (statement) => {
      for (const term of termsOf(statement))
        seeTerm(term, (t) => {
          // What only counts on from itself is read by nobody.
          if (statement.kind === 'set' && isSame(statement.to, t)) return;
          if (t.kind === 'local') reads.locals.add(t.name);
          else if (t.kind === 'register') reads.registers.add(t.index);
          else if (t.kind === 'field') reads.fields.add(t.place);
          else if (t.kind === 'fact') reads.facts.add(t.slot);
        });
    });
  return reads;
}

const isSame = (a: Term, b: Term): boolean =>
  (a.kind === 'field' && b.kind === 'field' && a.place === b.place) ||
  (a.kind === 'register' && b.kind === 'register' && a.index === b.index) ||
  (a.kind === 'fact' && b.kind === 'fact' && a.slot === b.slot);
