import {
  type Compiled,
  compileTurned,
  lower,
  numbersApart,
  type Program,
  type Term,
} from '../machine/index.js';
import { settingChanges, type Turnable, turnablesOf } from '../tune/index.js';

/** A dial whose value stands in the code as a constant with its name. */
export interface Constant {
  name: string;
  value: number;
  unit: string;
}

export interface Constants {
  list: Constant[];
  /** The numbers of the program that are a dial's value, with its name, and whether they are its negative. */
  named: Map<Term, { name: string; isNegative: boolean }>;
  /** Dials that are worked into other numbers, so that no constant of theirs could be turned alone. */
  workedIn: string[];
}

/**
 * Which numbers of a program are the values of dials: each dial is turned a little, and what differs then is what hangs
 * on it. A dial becomes a constant only where all of that is its value itself: one that is worked into other numbers,
 * such as a length of time in ticks, would be turned by halves. `program` must be unshared.
 */
export function constantsOf(compiled: Compiled, program: Program): Constants {
  const constants: Constants = { list: [], named: new Map(), workedIn: [] };
  for (const turnable of turnablesOf(compiled)) {
    const { name, value, unit } = turnable;
    const uses = usesOf(compiled, program, turnable);
    if (uses === undefined) constants.workedIn.push(name);
    else if (uses.length > 0) {
      constants.list.push({ name, value, unit });
      for (const { term, isNegative } of uses) constants.named.set(term, { name, isNegative });
    }
  }
  return constants;
}

interface Use {
  term: Term;
  isNegative: boolean;
}

/** Where the value of a dial stands in a program; undefined when it is worked into something else. */
function usesOf(compiled: Compiled, program: Program, { name, value }: Turnable): Use[] | undefined {
  const turned = value === 0 ? 1 : value * 1.0625;
  const { machine } = compileTurned(compiled, settingChanges(turnablesOf(compiled), { [name]: turned }));
  const apart = machine && numbersApart(program, lower(machine, { origins: true }));
  if (apart === undefined) return undefined;
  const uses: Use[] = [];
  for (const [term, other] of apart) {
    if (term.kind !== 'number') return undefined;
    const isPositive = term.value === value && other === turned;
    const isNegative = term.value === -value && other === -turned;
    if (!isPositive && !isNegative) return undefined;
    uses.push({ term, isNegative });
  }
  return uses;
}
