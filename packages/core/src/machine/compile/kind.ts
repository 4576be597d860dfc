import { type Expression, type PlainFact, visit } from '../../notation/index.js';
import { chainOf, type Crossing, type Lane, type State, type StateKind } from '../definition/machine.js';

/**
 * What moves the body in a state, read off what the state says and what its ways in and out ask for: a tether is *slung*; a fixed sideways
 * velocity is *committed*; a way in that speaks of the wall is *braced*; a way in that asks for ground is *footed*;
 * one that launches or waits for the ground to go, or a way out that waits for ground, is *aloft*; the rest is footed.
 */
export function kindOf(states: State[], lane: Lane, state: State): StateKind {
  const { hold, drive, tether } = state.motion;
  if (tether !== undefined) return 'slung';
  if (hold?.vx !== undefined && drive === undefined) return 'committed';
  const around = chainOf({ states }, state.index);
  const out = lane.crossings.filter((c) => c.from.some((s) => around.includes(s)));
  const into = lane.crossings.filter((c) => around.includes(c.to));
  const asks = (list: Crossing[], fact: PlainFact, plainly: boolean): boolean =>
    list.some((c) => c.when !== undefined && mentions(c.when, fact, plainly));
  if (asks(into, 'wall', true) || asks(into, 'pushing', true)) return 'braced';
  if (hold?.vy !== undefined) return 'aloft';
  if (asks(into, 'grounded', true)) return 'footed';
  const launched = into.some((c) =>
    [...c.do, ...state.enter].some((e) => e.kind === 'velocity' && e.channel === 'vy'),
  );
  const lost = asks(into, 'grounded', false) || asks(into, 'airborne', true) || asks(into, 'falling', true);
  if (asks(out, 'grounded', true) || launched || lost) return 'aloft';
  return 'footed';
}

/** Whether a guard reads a fact plainly (an even number of `not` around it) or negated. */
function mentions(e: Expression, fact: PlainFact, plainly: boolean): boolean {
  let found = false;
  const see = (part: Expression, positive: boolean): void => {
    if (part.kind === 'not') see(part.of, !positive);
    else if (part.kind === 'memory') see(part.of, positive);
    else if (part.kind === 'logic') part.parts.forEach((p) => see(p, positive));
    else visit(part, (p) => (found ||= p.kind === 'fact' && p.ref.fact === fact && positive === plainly));
  };
  see(e, true);
  return found;
}
