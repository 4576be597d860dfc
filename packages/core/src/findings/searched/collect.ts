import { present } from '../../present.js';
import type { Machine } from '../../machine/index.js';
import type { Scout, Sighting } from '../../scout/index.js';
import type { Finding } from '../sentences/finding.js';
import type { Sign } from '../witnessed/index.js';
import { type TriggeredTrap, triggeredFinding } from './triggered-traps.js';
import type { Rhythms } from './rhythms.js';
import { withTails } from './tails.js';
import { shrunk, witnesses } from './witness.js';

/** What scouts saw, made findings with witnesses as it comes. */
export interface Collection {
  /** All findings so far, each fault once. */
  findings: Finding[];
  /** Looks at what was seen since it was called last. */
  collect(): void;
}

/** Collects what scouts see, in the order in which they see it; `known` is what was found before. */
export function createCollection(
  machine: Machine,
  scouts: readonly Scout[],
  rhythms: readonly Rhythms[],
  triggered: readonly TriggeredTrap[],
  known: readonly Finding[],
): Collection {
  const findings: Finding[] = [];
  const seen = scouts.map(() => 0);
  let traps = 0;
  const add = (more: readonly Finding[]): void => {
    for (const f of more)
      if (!findings.some((known) => known.fingerprint === f.fingerprint)) findings.push(f);
  };
  const isNew = ({ finding: { fingerprint } }: Sign): boolean =>
    !known.some((f) => f.fingerprint === fingerprint && f.certainty !== 'suspected') &&
    !findings.some((f) => f.fingerprint === fingerprint);
  const look = (scout: Scout, { event, way }: Sighting): void => {
    add(witnesses(scout, way, isNew));
    if (event.kind !== 'taken') return;
    const { lane, crossing } = event;
    const short = shrunk(scout, way, (fast) => takes(fast.taken, fast.takenCount, lane, crossing));
    for (const tail of withTails(machine, short)) add(witnesses(scout, tail, isNew));
  };
  return {
    findings,
    collect() {
      for (; traps < triggered.length; traps++) add([triggeredFinding(present(triggered[traps]))]);
      scouts.forEach((scout, i) => {
        for (const sighting of scout.sightingsFrom(present(seen[i]))) {
          look(scout, sighting);
          seen[i] = present(seen[i]) + 1;
        }
        for (const way of present(rhythms[i]).takeWays()) add(witnesses(scout, way, isNew));
      });
    },
  };
}

function takes(taken: readonly number[], count: number, lane: number, crossing: number): boolean {
  for (let i = 0; i < 4 * count; i += 4) if (taken[i] === lane && taken[i + 1] === crossing) return true;
  return false;
}
