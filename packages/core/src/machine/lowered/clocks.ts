import { NEVER } from '../reference/memories.js';
import { truthOf } from './expressions.js';
import { TICK } from './layout.js';
import { type Lowering, register } from './lowering.js';
import type { Place, Statement, Term } from './program.js';
import {
  all,
  any,
  choice,
  compare,
  fact,
  field,
  isNot,
  letBe,
  local,
  minus,
  not,
  number,
  operation,
  plus,
  set,
  when,
} from './terms.js';

/**
 * Step 3, as `advanceClocks` of the reference: timers, cooldowns, the memories behind `within` and `for`, `refill`. The
 * machine's own facts are brought up to date by a procedure that is written when everything else is: only then is it
 * known which of them something reads.
 */
export function clocks(lowering: Lowering): Statement[] {
  const { machine, layout } = lowering;
  const { memories, timers, cooldowns } = machine;
  const tick = field(TICK);
  const before = memories.map((_, i) => letBe(`before${i}`, field(layout.memories + i)));
  const remembered = remember(lowering);
  const isRunning = (left: Term): Term => compare(left, '>', number(0));
  const guarded = timers.flatMap(({ runs }, i) =>
    runs === undefined ? [] : [isRunning(field(layout.timers + i))],
  );
  const advanced: Statement[] = [
    // `runs` sees this tick's senses, with the clocks as the last tick left them.
    ...(guarded.length === 0
      ? []
      : when(any(...guarded), [...own(lowering, minus(tick, number(1))), ...remembered])),
    ...timers.flatMap(({ runs }, i) => {
      const left = field(layout.timers + i);
      const runsNow = runs === undefined ? [] : [truthOf(lowering, 'decide', runs)];
      return when(all(isRunning(left), ...runsNow), [set(left, minus(left, number(1)))]);
    }),
    ...cooldowns.flatMap(({ order, charges, ticks }, i) => {
      const clock = field(layout.clocks + i);
      const now = field(layout.charges + i);
      return when(isNot(clock, 0), [
        set(clock, minus(clock, number(1))),
        ...when(compare(clock, '<=', number(0)), [
          set(now, order === 'together' ? number(charges) : plus(now, number(1))),
          ...when(compare(now, '<', number(charges)), [set(clock, number(ticks))]),
        ]),
      ]);
    }),
  ];
  return [
    ...before,
    // No time has passed before the first tick.
    ...when(isNot(tick, 0), advanced),
    ...own(lowering, tick),
    ...remembered,
    ...refill(lowering, [...own(lowering, tick), ...remembered]),
  ];
}

/** Brings the machine's own facts up to date, with time counted up to a tick. */
export const own = (lowering: Lowering, until: Term): Statement[] => [
  set(register(lowering, 'age'), until),
  { kind: 'call', procedure: OWN },
];

export const OWN = 'own facts';

/** What the memories are one tick after what they were, on the facts as they are by now. */
const remember = (lowering: Lowering): Statement[] =>
  lowering.machine.memories.flatMap(({ mode, of, ticks, slot }, i) => {
    const holds = truthOf(lowering, 'decide', of);
    const count = field(lowering.layout.memories + i);
    const next = operation('min', plus(local(`before${i}`), number(1)), number(NEVER));
    return [
      set(count, choice(mode === 'within' ? holds : not(holds), number(0), next)),
      set(fact(slot), compare(count, mode === 'within' ? '<' : '>=', number(ticks))),
    ];
  });

/** Charges, counts and flags that go back to what they were while their condition holds. */
function refill(lowering: Lowering, afterwards: Statement[]): Statement[] {
  const { machine, layout } = lowering;
  const changed = register(lowering, 'refilled');
  const fill = (now: Place, full: number): Statement[] =>
    when(isNot(now, full), [set(now, number(full)), set(changed, number(1))]);
  const filled = [
    ...machine.cooldowns.flatMap(({ refill, charges }, i) =>
      refill === undefined
        ? []
        : when(truthOf(lowering, 'decide', refill), [
            ...fill(field(layout.charges + i), charges),
            set(field(layout.clocks + i), number(0)),
          ]),
    ),
    ...machine.variables.flatMap(({ refill, kind, max, initial }, i) =>
      refill === undefined
        ? []
        : when(
            truthOf(lowering, 'decide', refill),
            fill(field(layout.variables + i), kind === 'count' ? max : initial),
          ),
    ),
  ];
  if (filled.length === 0) return [];
  return [set(changed, number(0)), ...filled, ...when(isNot(changed, 0), afterwards)];
}
