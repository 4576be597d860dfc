import type { Machine } from '../machine/index.js';
import { apply, arithmetic, type Expression, idOfRef } from '../notation/index.js';
import { LARGEST } from '../tolerances.js';
import { domainOf } from './laws.js';

/** Between what a number always is; either end may be infinite. */
export type Bounds = readonly [low: number, high: number];

const ANY: Bounds = [-Infinity, Infinity];

/**
 * Between what an expression always is, by interval arithmetic (each part on its own: two mentions of one fact may
 * differ). A number that is as large as a run can hold counts as without bound.
 */
export function boundsOf(machine: Machine, e: Expression): Bounds {
  switch (e.kind) {
    case 'constant':
      return [e.value, e.value];
    case 'fact': {
      const { low, high } = domainOf(machine, idOfRef(e.ref));
      return [low <= -LARGEST ? -Infinity : low, high >= LARGEST ? Infinity : high];
    }
    case 'negate': {
      const [low, high] = boundsOf(machine, e.of);
      return [-high, -low];
    }
    case 'arithmetic':
      return ofArithmetic(e.op, boundsOf(machine, e.left), boundsOf(machine, e.right));
    case 'choice':
      return hull(boundsOf(machine, e.then), boundsOf(machine, e.otherwise));
    case 'function':
      return ofFunction(
        e.name,
        e.args.map((arg) => boundsOf(machine, arg)),
      );
    default:
      return [0, 1];
  }
}

/** The greatest that an expression can be; `nothing` when there is none. */
export const highestOf = (machine: Machine, e: Expression | undefined, nothing = 0): number =>
  e === undefined ? nothing : boundsOf(machine, e)[1];

/** The least that an expression can be; `nothing` when there is none. */
export const lowestOf = (machine: Machine, e: Expression | undefined, nothing = 0): number =>
  e === undefined ? nothing : boundsOf(machine, e)[0];

const hull = (...all: readonly Bounds[]): Bounds => [
  Math.min(...all.map(([low]) => low)),
  Math.max(...all.map(([, high]) => high)),
];

function ofArithmetic(op: '+' | '-' | '*' | '/', [a, b]: Bounds, [c, d]: Bounds): Bounds {
  if (op === '+') return [a + c, b + d];
  if (op === '-') return [a - d, b - c];
  // What is divided by something that may come near zero has no bound.
  if (op === '/' && c <= 0 && d >= 0) return c === 0 && d === 0 ? [0, 0] : ANY;
  const corners = [a, b].flatMap((x) => [c, d].map((y) => arithmetic(op, x, y)));
  // Nothing times anything is nothing, however large.
  const known = corners.map((n) => (Number.isNaN(n) ? 0 : n));
  return [Math.min(...known), Math.max(...known)];
}

function ofFunction(name: string, args: readonly Bounds[]): Bounds {
  const [a = ANY, b = ANY, c = ANY] = args;
  switch (name) {
    // These never fall when an argument rises.
    case 'min':
    case 'max':
    case 'sqrt':
    case 'sign':
    case 'clamp':
      return [
        apply(name, args.map(([low]) => low)), // prettier-ignore
        apply(name, args.map(([, high]) => high)), // prettier-ignore
      ];
    case 'abs':
      return [
        a[0] <= 0 && a[1] >= 0 ? 0 : Math.min(Math.abs(a[0]), Math.abs(a[1])),
        hull(a, [-a[1], -a[0]])[1],
      ];
    // From the one towards the other, and no further.
    case 'approach':
      return hull(a, b);
    case 'lerp':
      return c[0] >= 0 && c[1] <= 1 ? hull(a, b) : ANY;
    default:
      return ANY;
  }
}
