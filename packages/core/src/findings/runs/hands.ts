import { type Author, authorText, type AuthorKind, type Machine, type Write } from '../../machine/index.js';
import { SAME_SPEED } from '../../tolerances.js';
import type { TickRecord } from '../../run/index.js';
import { type Detector, once, type Sign } from './sign.js';

/**
 * AG2: what a lane wrote to a channel, or an effect did, was replaced in the same tick by another lane, or by what the
 * entered state holds; it never moved anything.
 */
export const hands: Detector = (machine, records) =>
  once(records.flatMap((record) => lostWrites(record.writes).map((pair) => handSign(machine, record, pair))));

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

/** Channels, as sentences name them. */
export const CHANNEL_WORDS: Record<Write['channel'], string> = {
  vx: 'vx',
  vy: 'vy',
  gravity: 'gravity',
  facing: 'the facing',
  stance: 'the stance',
};

function handSign(machine: Machine, { tick, leaves, taken }: TickRecord, { write, by }: Lost): Sign {
  const own = write.author.lane;
  const lane = machine.lanes[own]!;
  const state = machine.states[leaves[own]!]!;
  const crossing = taken.find((t) => t.lane === own)?.crossing;
  const [first, last] = [write, by].map((w) => authorText(machine, w.author));
  const what = (w: Write): string =>
    w.channel === 'stance' ? machine.stances[w.value]!.name : String(Math.round(w.value * 100) / 100);
  const other = own === by.author.lane ? '' : ` of the lane ${machine.lanes[by.author.lane]!.name}`;
  return {
    code: 'AG2',
    lane: lane.name,
    state: state.name,
    crossing:
      crossing === undefined
        ? null
        : {
            from: machine.states[taken.find((t) => t.lane === own)!.from]!.name,
            to: machine.states[crossing.to]!.name,
            index: crossing.index,
          },
    sentence: `${first} and ${last}${other} both write ${CHANNEL_WORDS[write.channel]} in one tick: what ${first} writes is lost before it moves anything.`,
    reason: [`${first} set ${CHANNEL_WORDS[write.channel]} to ${what(write)}, and ${last} to ${what(by)}.`],
    tick,
    path: crossing?.path ?? state.path,
    fingerprint: `AG2/${write.channel}/${first}/${last}`,
  };
}
