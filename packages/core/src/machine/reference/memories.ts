import { present } from '../../present.js';
import { holds, type Remembered } from '../../notation/index.js';

/** Never within any length of time. */
export const NEVER = 1_000_000_000;

type Memory = Pick<Remembered, 'mode' | 'of' | 'ticks' | 'slot'>;

/** What a memory counts before the first tick: for `within` the ticks since it held, for `for` those it has held. */
export const startOfMemory = ({ mode }: Memory): number => (mode === 'within' ? NEVER : 0);

/**
 * What memories count one tick after they counted `before`, on the facts as they are now. Their own facts are filled,
 * in order, so that inner ones must come first.
 */
export const remember = (
  memories: readonly Memory[],
  before: readonly number[],
  facts: Float64Array,
): number[] =>
  memories.map(({ mode, of, ticks, slot }, i) => {
    const now = holds(of, facts);
    const since = Math.min(present(before[i]) + 1, NEVER);
    const count = now === (mode === 'within') ? 0 : since;
    facts[slot] = Number(mode === 'within' ? count < ticks : count >= ticks);
    return count;
  });
