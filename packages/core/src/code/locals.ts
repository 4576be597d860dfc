import type { Place, Statement, Term } from '../machine/index.js';
import { mapTerm } from './walk.js';

/**
 * Gives each local of a procedure a name of its own, so that it can be told from all others; the first one of a name
 * keeps it.
 */
export const uniqueLocals = (list: readonly Statement[]): Statement[] => {
  const taken = new Set<string>();
  return renamed(list, new Map(), () => taken, '$');
};

/**
 * Gives each local a plain name that no list around its own declares: some languages refuse that, and readers stumble.
 */
export const distinctLocals = (list: readonly Statement[]): Statement[] =>
  renamed(list, new Map(), (outer) => new Set(outer), '');

function renamed(
  list: readonly Statement[],
  outer: ReadonlyMap<string, string>,
  scope: (outer: ReadonlySet<string>) => Set<string>,
  mark: string,
  taken: ReadonlySet<string> = new Set(),
): Statement[] {
  const names = new Map(outer);
  const all = scope(taken);
  for (const s of list) {
    if (s.kind !== 'let') continue;
    const name = freeName(s.name.replace(/\$\d+$/, ''), mark, all);
    names.set(s.name, name);
    all.add(name);
  }
  // Before its declaration a name still means what it means outside.
  const now = new Map(outer);
  const term = (whole: Term): Term => mapTerm(whole, place);
  const place = <T extends Term | Place>(t: T): T =>
    t.kind === 'local' ? { ...t, name: now.get(t.name) ?? t.name } : t;
  const inner = (body: readonly Statement[]): Statement[] => renamed(body, new Map(now), scope, mark, all);
  return list.map((s): Statement => {
    switch (s.kind) {
      case 'let': {
        const value = term(s.value);
        const name = names.get(s.name) ?? s.name;
        now.set(s.name, name);
        return { ...s, name, value };
      }
      case 'set':
        return { ...s, to: place(s.to), value: term(s.value) };
      case 'block':
        return { ...s, body: inner(s.body) };
      case 'if':
        return { ...s, when: term(s.when), then: inner(s.then), otherwise: inner(s.otherwise) };
      case 'switch':
        return {
          ...s,
          on: term(s.on),
          cases: s.cases.map(({ of, body }) => ({ of, body: inner(body) })),
          otherwise: inner(s.otherwise),
        };
      case 'repeat':
        return { ...s, while: term(s.while), body: inner(s.body) };
      default:
        return s;
    }
  });
}

function freeName(name: string, mark: string, taken: ReadonlySet<string>): string {
  if (!taken.has(name)) return name;
  for (let n = 2; ; n++) if (!taken.has(`${name}${mark}${n}`)) return `${name}${mark}${n}`;
}
