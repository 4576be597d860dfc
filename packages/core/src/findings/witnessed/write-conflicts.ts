import { present } from '../../present.js';
import type { Author, AuthorKind, Machine, Write } from '../../machine/index.js';
import { writeEvidence } from '../proved/conflicts.js';
import { SAME_SPEED } from '../../tolerances.js';
import type { TickRecord } from '../../run/index.js';
import { type Detector, once, placeOfTaken, type Sign, signAt } from './sign.js';

/**
 * AG2: what a lane wrote to a channel, or an effect did, was replaced in the same tick by another lane, or by what the
 * entered state holds; it never moved anything.
 */
export const writeConflicts: Detector = (machine, records) =>
  once(
    records.flatMap((record) => lostWrites(record.writes).map((pair) => conflictSign(machine, record, pair))),
  );

/** What somebody meant to be the value, unlike a rule that only adds to it. */
const MEANT: ReadonlySet<AuthorKind> = new Set(['do', 'enter', 'exit', 'each', 'hold', 'stance']);

interface Lost {
  write: Write;
  by: Write;
}

function lostWrites(writes: readonly Write[]): Lost[] {
  return writes.flatMap((write, i): Lost[] => {
    if (write.author.lane < 0 || !MEANT.has(write.author.kind)) return [];
    const by = writes
      .slice(i + 1)
      .find(
        (later) =>
          later.channel === write.channel &&
          later.replaces &&
          later.author.lane >= 0 &&
          isAnother(write.author, later.author),
      );
    return by === undefined || Math.abs(by.value - write.value) < SAME_SPEED ? [] : [{ write, by }];
  });
}

/** Another lane; or, in one lane, what the entered state holds against what was done on the way in. */
const isAnother = (author: Author, later: Author): boolean =>
  author.lane !== later.lane ||
  ((author.kind === 'do' || author.kind === 'enter') && (later.kind === 'hold' || later.kind === 'tether'));

function conflictSign(machine: Machine, { tick, leaves, taken }: TickRecord, { write, by }: Lost): Sign {
  const own = write.author.lane;
  const state = present(machine.states[present(leaves[own])]);
  const crossed = taken.find((t) => t.lane === own);
  const value = (w: Write): string =>
    w.channel === 'stance' ? present(machine.stances[w.value]).name : String(Math.round(w.value * 100) / 100);
  const place = crossed && placeOfTaken(machine, crossed);
  return signAt(tick, {
    code: 'AG2',
    lane: present(machine.lanes[own]).name,
    state: state.name,
    crossing: place?.crossing ?? null,
    path: place?.path ?? state.path,
    evidence: {
      channel: write.channel,
      first: writeEvidence(machine, write.author, value(write)),
      last: writeEvidence(machine, by.author, value(by)),
    },
  });
}
