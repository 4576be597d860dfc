import { present } from '../../present.js';
import type { Machine } from '../../machine/index.js';
import { factsIn, print } from '../../notation/index.js';
import { createFinding, type Finding, type FindingOf } from '../sentences/finding.js';
import { conjuncts } from './guard.js';

/**
 * States of several lanes that can be entered only once the others are: one fault in place of several. Other findings
 * are left as they are.
 */
export function joinWaiting(machine: Machine, findings: readonly Finding[]): Finding[] {
  const shut = findings.filter((f): f is FindingOf<'IN2'> => f.code === 'IN2');
  const asks = new Map(shut.map((f) => [f, waitsOf(machine, f, shut)]));
  const reaches = (from: FindingOf<'IN2'>): Set<FindingOf<'IN2'>> => {
    const seen = new Set<FindingOf<'IN2'>>();
    const queue = [from];
    for (let f = queue.pop(); f !== undefined; f = queue.pop())
      for (const { on } of present(asks.get(f))) {
        if (seen.has(on)) continue;
        seen.add(on);
        queue.push(on);
      }
    return seen;
  };
  const all = new Map(shut.map((f) => [f, reaches(f)]));
  const joined = new Set<Finding>();
  return findings.flatMap((f): Finding[] => {
    if (f.code !== 'IN2' || joined.has(f)) return joined.has(f) ? [] : [f];
    const others = shut.filter((g) => g !== f && all.get(f)?.has(g) === true && all.get(g)?.has(f) === true);
    if (others.length === 0) return [f];
    for (const g of others) joined.add(g);
    const ring = [f, ...others];
    const waits = ring.map((g) => {
      const wait = present(present(asks.get(g)).find(({ on }) => ring.includes(on)));
      return { state: g.state, lane: g.lane, asks: wait.term };
    });
    return [createFinding({ ...f, evidence: { ...f.evidence, waits } })];
  });
}

/** The findings about states of other lanes that the ways into a state ask to be in, and the terms that do. */
function waitsOf(
  machine: Machine,
  { lane, evidence: { ways } }: FindingOf<'IN2'>,
  shut: readonly FindingOf<'IN2'>[],
): { on: FindingOf<'IN2'>; term: string }[] {
  const crossings = present(machine.lanes.find((l) => l.name === lane)).crossings;
  return ways.flatMap(({ crossing, hindrance }) => {
    if (hindrance.kind !== 'blocked' || !hindrance.taken.some((t) => t.kind === 'leaf')) return [];
    return conjuncts(present(crossings[crossing.index]).when).flatMap((term) =>
      shut
        .filter(
          (g) => g.lane !== lane && factsIn(term).some(({ fact, of }) => fact === 'in' && of === g.state),
        )
        .map((on) => ({ on, term: print(term.syntax) })),
    );
  });
}
