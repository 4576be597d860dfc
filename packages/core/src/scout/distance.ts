import { evaluate, type Expression, type FactRef, toTicks } from '../notation/index.js';

/** What a truth fact that does not hold costs: a press is a tick away, most others more. */
const FACT = 4;
const PRESS = 1;

/**
 * How far a guard is from holding on a table of facts, 0 when it does: what is asked for together adds up, of what is
 * asked for either way the nearest counts, a comparison by how much is missing in m/s, half metres, tenths of a second,
 * 10 degrees, or plain numbers. Only for telling nearer from farther.
 */
export function distanceOf(e: Expression | undefined, facts: ArrayLike<number>, wanted = true): number {
  if (e === undefined) return wanted ? 0 : FACT;
  switch (e.kind) {
    case 'constant':
      return (e.value !== 0) === wanted ? 0 : 1000;
    case 'not':
      return distanceOf(e.of, facts, !wanted);
    case 'fact':
      return (facts[e.slot] !== 0) === wanted ? 0 : isButtonFact(e.ref) ? PRESS : FACT;
    case 'memory':
      return (facts[e.slot] !== 0) === wanted ? 0 : 1 + distanceOf(e.of, facts, wanted);
    case 'logic': {
      const adds = (e.op === 'and') === wanted;
      let total = adds ? 0 : Infinity;
      for (const part of e.parts) {
        const d = distanceOf(part, facts, wanted);
        total = adds ? total + d : Math.min(total, d);
      }
      return total;
    }
    case 'compare':
      return comparedDistance(e, facts, wanted);
    default:
      return FACT;
  }
}

const isButtonFact = ({ fact }: FactRef): boolean =>
  fact === 'pressed' || fact === 'held' || fact === 'released';

function comparedDistance(
  e: Extract<Expression, { kind: 'compare' }>,
  facts: ArrayLike<number>,
  wanted: boolean,
): number {
  const inTicks = (n: number): number => (e.rate === undefined ? n : toTicks(n, e.rate) / e.rate);
  const left = inTicks(evaluate(e.left, facts));
  const right = inTicks(evaluate(e.right, facts));
  const less = e.op === '<' || e.op === '<=';
  const more = e.op === '>' || e.op === '>=';
  const { m, s, deg } = e.left.dimension;
  const scale = deg !== 0 ? 10 : m === 1 && s === 0 ? 0.5 : m === 0 && s === 1 ? 0.1 : 1;
  if (!less && !more) {
    const same = left === right;
    return same === ((e.op === '=') === wanted) ? 0 : same ? 1 : Math.abs(left - right) / scale;
  }
  const over = less === wanted ? left - right : right - left;
  const isStrict = e.op === '<' || e.op === '>' ? wanted : !wanted;
  return over < 0 || (over === 0 && !isStrict) ? 0 : Math.min(50, 0.01 + over / scale);
}
