import type { Statement, Term } from '../machine/index.js';

/** A term with what `change` makes of each of its parts, and then of itself. */
export function mapTerm(term: Term, change: (t: Term) => Term): Term {
  const of = (t: Term): Term => mapTerm(t, change);
  switch (term.kind) {
    case 'element':
      return change({ ...term, index: of(term.index) });
    case 'sense':
    case 'operation':
      return change({ ...term, args: term.args.map(of) });
    case 'compare':
      return change({ ...term, left: of(term.left), right: of(term.right) });
    case 'not':
      return change({ ...term, of: of(term.of) });
    case 'all':
    case 'any':
      return change({ ...term, of: term.of.map(of) });
    case 'choice':
      return change({ ...term, when: of(term.when), then: of(term.then), otherwise: of(term.otherwise) });
    default:
      return change(term);
  }
}

/** Calls `see` with a term and all its parts. */
export function seeTerm(term: Term, see: (t: Term) => void): void {
  mapTerm(term, (t) => {
    see(t);
    return t;
  });
}

/** Calls `see` with each statement and each that is within one, outer ones first. */
export function seeStatements(list: readonly Statement[], see: (s: Statement) => void): void {
  for (const statement of list) {
    see(statement);
    for (const body of bodiesOf(statement)) seeStatements(body, see);
  }
}

/** The lists of statements within a statement. */
export function bodiesOf(statement: Statement): (readonly Statement[])[] {
  switch (statement.kind) {
    case 'block':
    case 'repeat':
      return [statement.body];
    case 'if':
      return [statement.then, statement.otherwise];
    case 'switch':
      return [...statement.cases.map(({ body }) => body), statement.otherwise];
    default:
      return [];
  }
}

/** The terms that a statement reads by itself; where it writes to is not among them. */
export function termsOf(statement: Statement): Term[] {
  switch (statement.kind) {
    case 'let':
    case 'set':
      return [statement.value];
    case 'if':
      return [statement.when];
    case 'switch':
      return [statement.on];
    case 'repeat':
      return [statement.while];
    case 'tell':
      return statement.what.kind === 'gravity' ? [statement.what.scale] : [];
    default:
      return [];
  }
}

/** The locals that are set again after their declaration; what zones do to a velocity is such a setting. */
export function localsSet(body: readonly Statement[]): Set<string> {
  const names = new Set<string>();
  seeStatements(body, (s) => {
    if (s.kind === 'set' && s.to.kind === 'local') names.add(s.to.name);
    if (s.kind === 'world' && s.act === 'blow') names.add('vx').add('vy');
  });
  return names;
}
