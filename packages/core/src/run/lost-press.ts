import { present } from '../present.js';
import { decide, type Machine, type Verdict } from '../machine/index.js';
import { explain, type Expression, falseTerms, holds, partsOf } from '../notation/index.js';
import type { TickRecord, Trace } from './trace.js';

/** A press of a button that no crossing answered. */
export interface LostPress {
  tick: number;
  control: string;
  /** The crossing that asks for the button and missed the least; undefined when none asks for it in these states. */
  nearest: NearMiss | undefined;
}

export interface NearMiss {
  from: string;
  to: string;
  verdict: Exclude<Verdict, 'taken'>;
  /** The terms of its guard that did not hold; none where it was refused, lost, or only locked. */
  missing: string[];
}

/**
 * What a press of a button at a tick came to: undefined when it was none, when a crossing that asks for the button was
 * taken while the press was remembered, or when the run so far is too short to say. `control` is the button's place, and
 * `last` the last tick that is known of.
 */
export function lostPress(
  { machine, records }: Trace,
  control: number,
  tick: number,
  last = records.length - 1,
): LostPress | undefined {
  const { name } = present(machine.controls[control]);
  const isDown = (t: number): boolean => (records[t]?.input[control] ?? 0) !== 0;
  const end = tick + rememberedFor(machine, name);
  if (!isDown(tick) || isDown(tick - 1) || end > last) return undefined;
  let nearest: NearMiss | undefined;
  let fewest = Infinity;
  for (const record of records.slice(tick, end + 1)) {
    for (const { from, to, verdict, when } of weighed(machine, record)) {
      if (when === undefined || !asksFor(when, name)) continue;
      if (verdict === 'taken') return undefined;
      const missing = falseTermsOf(when, record.facts);
      // A locked ability counts like one more term that does not hold.
      const distance = missing.length + (verdict === 'locked' ? 1 : 0);
      if (distance >= fewest) continue;
      fewest = distance;
      nearest = { from, to, verdict, missing };
    }
  }
  return { tick, control: name, nearest };
}

const falseTermsOf = (when: Expression, facts: ArrayLike<number>): string[] =>
  holds(when, facts) ? [] : falseTerms(explain(when, facts));

/** Whether a guard asks for a button to be pressed or held; `not held(…)` does not ask for it. */
const asksFor = (e: Expression, control: string): boolean =>
  e.kind === 'fact'
    ? e.ref.of === control && (e.ref.fact === 'pressed' || e.ref.fact === 'held')
    : e.kind === 'memory'
      ? e.presses.includes(control) || asksFor(e.of, control)
      : e.kind !== 'not' && partsOf(e).some((part) => asksFor(part, control));

/** How long a press of a control is remembered at most, in ticks: the longest `within` around it. */
const rememberedFor = (machine: Machine, control: string): number =>
  Math.max(0, ...machine.memories.filter((m) => m.presses.includes(control)).map((m) => m.ticks));

/** Every crossing that the lanes weighed at a tick. */
const weighed = (machine: Machine, { leavesBefore, facts, lastBefore }: TickRecord) =>
  leavesBefore.flatMap((leaf) =>
    decide(machine, leaf, facts, lastBefore).map(({ crossing, verdict }) => ({
      from: present(machine.states[leaf]).name,
      to: present(machine.states[crossing.to]).name,
      when: crossing.when,
      verdict,
    })),
  );
