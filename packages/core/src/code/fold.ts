import { type Statement, type Term, terms } from '../machine/index.js';
import { localsSet, mapTerm, seeStatements } from './walk.js';

const { all, any, isAlways, isNever } = terms;

/** What is known where a statement runs: locals that are a number or a truth, and the values of fields. */
interface Known {
  locals: ReadonlyMap<string, Term>;
  fields: ReadonlyMap<number, number>;
}

/**
 * Works out what is settled before a run: locals that never change are their values, and within the case of a state the
 * lane is in that state. `isDial` says which numbers are dials: those stay, for whoever turns the constant in the code.
 */
export function fold(list: readonly Statement[], isDial: (t: Term) => boolean): Statement[] {
  const changing = localsSet(list);
  const term = (whole: Term, known: Known): Term =>
    mapTerm(whole, (t) => {
      if (t.kind === 'local') return known.locals.get(t.name) ?? t;
      if (t.kind !== 'compare' || t.right.kind !== 'number' || isDial(t.right)) return t;
      const left =
        t.left.kind === 'number' && !isDial(t.left)
          ? t.left.value
          : t.left.kind === 'field'
            ? known.fields.get(t.left.place)
            : undefined;
      return left === undefined ? t : COMPARED[t.op](left, t.right.value) ? all() : any();
    });
  const statements = (body: readonly Statement[], outer: Known): Statement[] => {
    const locals = new Map(outer.locals);
    const known = { ...outer, locals };
    return body.flatMap((s): Statement | Statement[] => {
      switch (s.kind) {
        case 'let': {
          const value = term(s.value, known);
          const isFixed = value.kind === 'number' || isAlways(value) || isNever(value);
          if (isFixed && !changing.has(s.name)) locals.set(s.name, value);
          else locals.delete(s.name);
          return { ...s, value };
        }
        case 'set':
          return { ...s, value: term(s.value, known) };
        case 'block':
          return { ...s, body: statements(s.body, known) };
        case 'if':
          return {
            ...s,
            when: term(s.when, known),
            then: statements(s.then, known),
            otherwise: statements(s.otherwise, known),
          };
        case 'switch': {
          const settled = term(s.on, known);
          if (settled.kind === 'number' && !isDial(settled)) {
            const only = s.cases.find(({ of }) => of === settled.value)?.body ?? s.otherwise;
            return [{ kind: 'block', body: statements(only, known) }];
          }
          return {
            ...s,
            on: settled,
            cases: s.cases.map(({ of, body: inner }) => ({
              of,
              body: statements(
                inner,
                isSteady(s.on, inner) ? { ...known, fields: withField(known, s.on, of) } : known,
              ),
            })),
            otherwise: statements(s.otherwise, known),
          };
        }
        case 'repeat':
          return { ...s, while: term(s.while, known), body: statements(s.body, known) };
        default:
          return s;
      }
    });
  };
  return statements(list, { locals: new Map(), fields: new Map() });
}

const withField = ({ fields }: Known, on: Term, value: number): Map<number, number> =>
  on.kind === 'field' ? new Map(fields).set(on.place, value) : new Map(fields);

/** Whether a field stays what it is while statements run; what is called might change it. */
function isSteady(on: Term, body: readonly Statement[]): boolean {
  if (on.kind !== 'field') return false;
  let steady = true;
  seeStatements(body, (s) => {
    if (s.kind === 'call' || (s.kind === 'set' && s.to.kind === 'field' && s.to.place === on.place))
      steady = false;
  });
  return steady;
}

const COMPARED: Record<Extract<Term, { kind: 'compare' }>['op'], (a: number, b: number) => boolean> = {
  '<': (a, b) => a < b,
  '<=': (a, b) => a <= b,
  '>': (a, b) => a > b,
  '>=': (a, b) => a >= b,
  '=': (a, b) => a === b,
  '!=': (a, b) => a !== b,
};
