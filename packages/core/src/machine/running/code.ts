import { numbersApart, printJavaScript, type Program, unshared } from '../lowered/index.js';
import type { Term } from '../lowered/program.js';
import type { Env, Fast } from './fast.js';

/** A program as code: a function that binds it to what it calls, and the numbers that it reads from a list. */
export interface Code {
  bind: (env: Env) => Fast['run'];
  numbers: Float64Array;
}

/** The code of a program with all its numbers written down. `writes` tells every write to a channel. */
export const codeOf = (program: Program, writes = false): Code => ({
  bind: made(printJavaScript(program, { writes })),
  numbers: new Float64Array(0),
});

// The text comes from a checked machine only: numbers, places, names of letters and digits, operators.
const made = (source: string): Code['bind'] => new Function('env', source) as Code['bind'];

/** Programs of the same form: the first of them, unshared, and the code that all of them share. */
interface Form {
  first: Program;
  /** The numbers in which some of them differ, in the order of the list that the code reads. */
  varying: Map<Term, number>;
  bind: Code['bind'];
}

/**
 * Makes the code of many programs that differ in some numbers, as those of one moveset with its dials turned do: it is
 * printed once, and again only when another number turns out to differ. So the engine makes it fast once, too.
 */
export function createCodes(): (program: Program) => Code {
  const forms: Form[] = [];
  return (program) => {
    for (const form of forms) {
      const apart = numbersApart(form.first, program);
      if (apart === undefined) continue;
      const { varying } = form;
      const known = varying.size;
      for (const term of apart.keys()) if (!varying.has(term)) varying.set(term, varying.size);
      if (varying.size > known) form.bind = printed(form);
      return {
        bind: form.bind,
        numbers: Float64Array.from(varying.keys(), (t) => apart.get(t) ?? valueOf(t)),
      };
    }
    const form = { first: unshared(program), varying: new Map<Term, number>() };
    const bind = printed(form);
    forms.push({ ...form, bind });
    return { bind, numbers: new Float64Array(0) };
  };
}

const printed = ({ first, varying }: Pick<Form, 'first' | 'varying'>): Code['bind'] =>
  made(printJavaScript(first, { writes: false, varying }));

/** The value of a term that is a number. */
const valueOf = (term: Term): number => (term.kind === 'number' ? term.value : NaN);
