import type { Place, Statement, Term } from '../machine/index.js';
import { fold } from './fold.js';
import { uniqueLocals } from './locals.js';
import { readsIn, tidy } from './tidy.js';
import { seeStatements } from './walk.js';

/** A procedure by its name, and what it does. */
export interface Bare {
  name: string;
  body: Statement[];
}

/** Leaves out what nobody reads, until nothing more can be left out. */
export function prune(
  list: readonly Bare[],
  keeps: ReadonlySet<number>,
  isDial: (t: Term) => boolean,
): Bare[] {
  const settled = (body: readonly Statement[]): Statement[] => tidy(fold(tidy(body), isDial));
  let now = list.map(({ name, body }) => ({ name, body: settled(uniqueLocals(body)) }));
  for (let before = '', text = textOf(now); text !== before; before = text, text = textOf(now)) {
    const reads = readsIn(now.map(({ body }) => body));
    const empty = new Set(now.filter(({ body }) => body.length === 0).map(({ name }) => name));
    const isRead = (to: Place, locals: ReadonlySet<string>): boolean => {
      switch (to.kind) {
        case 'field':
          return keeps.has(to.place) || reads.fields.has(to.place);
        case 'register':
          return reads.registers.has(to.index);
        case 'fact':
          return reads.facts.has(to.slot);
        case 'local':
          return locals.has(to.name);
        default:
          return true;
      }
    };
    const isNeeded =
      (locals: ReadonlySet<string>) =>
      (s: Statement): boolean => {
        if (s.kind === 'set') return isRead(s.to, locals);
        return s.kind === 'let' ? locals.has(s.name) : s.kind !== 'call' || !empty.has(s.procedure);
      };
    now = now.map(({ name, body }) => ({ name, body: settled(filtered(body, isNeeded(localsRead(body)))) }));
  }
  return now;
}

/** The locals that a procedure reads; zones work on those of the velocity, and ask whether the body stands. */
function localsRead(body: readonly Statement[]): ReadonlySet<string> {
  const { locals } = readsIn([body]);
  seeStatements(body, (s) => {
    if (s.kind === 'world' && s.act === 'blow')
      for (const name of ['vx', 'vy', 'nx', 'ny', 'stands']) locals.add(name);
  });
  return locals;
}

/** Procedures as a text, to tell whether something changed. */
const textOf = (list: readonly Bare[]): string => JSON.stringify(list);

/** The statements that are needed, at every depth. */
const filtered = (list: readonly Statement[], isNeeded: (s: Statement) => boolean): Statement[] =>
  list.filter(isNeeded).map((s) => {
    const of = (body: readonly Statement[]): Statement[] => filtered(body, isNeeded);
    switch (s.kind) {
      case 'block':
      case 'repeat':
        return { ...s, body: of(s.body) };
      case 'if':
        return { ...s, then: of(s.then), otherwise: of(s.otherwise) };
      case 'switch':
        return {
          ...s,
          cases: s.cases.map((c) => ({ of: c.of, body: of(c.body) })),
          otherwise: of(s.otherwise),
        };
      default:
        return s;
    }
  });
