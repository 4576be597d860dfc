import { TICK_SLACK } from '../../tolerances.js';
import { type Expression, toTicks } from '../../notation/index.js';
import { factAt, type Lowering, type Moment } from './lowering.js';
import type { Term } from './program.js';
import {
  all,
  any,
  choice,
  compare,
  fact,
  isNot,
  isTruth,
  minus,
  negated,
  not,
  number,
  operation,
  times,
} from './terms.js';

/** An expression as a term that gives what `evaluate` gives, to the last bit, when it is read at a moment of the tick. */
export function termOf(lowering: Lowering, moment: Moment, e: Expression): Term {
  const of = (part: Expression): Term => termOf(lowering, moment, part);
  switch (e.kind) {
    case 'constant':
      return number(e.value);
    case 'fact':
      return factAt(lowering, moment, e.slot);
    case 'memory':
      return fact(e.slot);
    case 'negate':
      return negated(of(e.of));
    case 'not':
      return not(truthOf(lowering, moment, e.of));
    case 'arithmetic':
      return operation(e.op === '/' ? 'over' : e.op, of(e.left), of(e.right));
    case 'compare':
      return compare(comparedTerm(of(e.left), e.rate), e.op, comparedTerm(of(e.right), e.rate));
    case 'logic': {
      const parts = e.parts.map((part) => truthOf(lowering, moment, part));
      return e.op === 'and' ? all(...parts) : any(...parts);
    }
    case 'choice':
      return choice(truthOf(lowering, moment, e.when), of(e.then), of(e.otherwise));
    case 'function':
      return functionTerm(e.name, e.args.map(of));
  }
}

/** An expression as a condition. */
export function truthOf(lowering: Lowering, moment: Moment, e: Expression): Term {
  const term = termOf(lowering, moment, e);
  return isTruth(term) ? term : isNot(term, 0);
}

/** One side of a comparison; lengths of time are compared in whole ticks, as `toTicks` makes them. */
function comparedTerm(side: Term, rate: number | undefined): Term {
  if (rate === undefined) return side;
  if (side.kind === 'number') return number(toTicks(side.value, rate));
  return operation('ceil', minus(times(side, number(rate)), number(TICK_SLACK)));
}

function functionTerm(name: string, args: readonly Term[]): Term {
  const [a, b, c] = args as [Term, Term, Term];
  switch (name) {
    case 'min':
    case 'max':
    case 'abs':
    case 'sign':
      return operation(name, ...args);
    case 'sqrt':
      return operation('root', a);
    case 'lerp':
      return operation('mix', a, b, c);
    case 'clamp':
      return operation('max', b, operation('min', c, a));
    case 'approach':
      return operation('approach', a, b, operation('abs', c));
    default:
      throw new RangeError(`no function is called ${name}`);
  }
}
