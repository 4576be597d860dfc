import { present } from '../../present.js';
import type { Machine } from '../../machine/index.js';
import type { Sighting, Survey, Way } from '../../scout/index.js';
import type { Finding } from '../sentences/finding.js';
import type { Sign } from '../witnessed/index.js';
import type { Advancing } from './rounds.js';
import { type TriggeredTrap, triggeredFinding } from './triggered-traps.js';
import { withTails } from './tails.js';
import { shrunk, witnesses } from './witness.js';

/** Faults that were seen, each once, as findings with witnesses. */
export interface Collection {
  readonly findings: readonly Finding[];
  /** Takes in findings that are not here yet. */
  add(more: readonly Finding[]): void;
  /** Looks for faults on a way. */
  follow(survey: Survey, way: Way): void;
  /** Looks for faults on the way to what was seen for the first time, and shortly after a crossing that was taken. */
  look(survey: Survey, sighting: Sighting): void;
}

/** Begins a collection; `known` is what was found before. */
export function createCollection(machine: Machine, known: readonly Finding[]): Collection {
  const findings: Finding[] = [];
  const isNew = ({ finding: { fingerprint } }: Sign): boolean =>
    !known.some((f) => f.fingerprint === fingerprint && f.certainty !== 'suspected') &&
    !findings.some((f) => f.fingerprint === fingerprint);
  const collection: Collection = {
    findings,
    add(more) {
      for (const f of more)
        if (!findings.some((known) => known.fingerprint === f.fingerprint)) findings.push(f);
    },
    follow: (survey, way) => collection.add(witnesses(survey, way, isNew)),
    look(survey, { event, way }) {
      collection.follow(survey, way);
      if (event.kind !== 'taken') return;
      const { lane, crossing } = event;
      const short = shrunk(survey, way, (fast) => takes(fast.taken, fast.takenCount, lane, crossing));
      for (const tail of withTails(machine, short)) collection.follow(survey, tail);
    },
  };
  return collection;
}

/** Makes a function that puts into a collection what was seen in rounds since it was called last. */
export function collecting(
  collection: Collection,
  rounds: readonly Pick<Advancing, 'scout' | 'rhythms'>[],
  triggered: readonly TriggeredTrap[],
  { looks }: { looks: boolean } = { looks: true },
): () => void {
  const seen = rounds.map(() => 0);
  let traps = 0;
  return () => {
    for (; traps < triggered.length; traps++) collection.add([triggeredFinding(present(triggered[traps]))]);
    rounds.forEach(({ scout, rhythms }, i) => {
      if (looks)
        for (const sighting of scout.sightingsFrom(present(seen[i]))) {
          collection.look(scout, sighting);
          seen[i] = present(seen[i]) + 1;
        }
      for (const way of rhythms.takeWays()) collection.follow(scout, way);
    });
  };
}

function takes(taken: readonly number[], count: number, lane: number, crossing: number): boolean {
  for (let i = 0; i < 4 * count; i += 4) if (taken[i] === lane && taken[i + 1] === crossing) return true;
  return false;
}
