import type { Machine, Write } from '../../machine/index.js';
import type { TickRecord } from '../../run/index.js';
import { type Detector, once, type Sign } from './sign.js';

/** Writes that differ by less are no quarrel (m/s). */
const SAME = 0.05;

/**
 * AG2: what a lane wrote to a channel, or an effect did, was replaced in the same tick by another lane, or by what the
 * entered state holds; it never moved anything.
 */
export const hands: Detector = (machine, records) =>
  once(records.flatMap((record) => lostWrites(record.writes).map((pair) => handSign(machine, record, pair))));

interface Lost {
  write: Write;
  by: Write;
}

function lostWrites(writes: readonly Write[]): Lost[] {
  return writes.flatMap((write, i): Lost[] => {
    if (write.lane < 0 || !/ (do|enter|exit|each|hold|stance)$/.test(write.author)) return [];
    const by = writes
      .slice(i + 1)
      .find(
        (later) =>
          later.channel === write.channel && later.replaces && later.lane >= 0 && isAnother(write, later),
      );
    return by === undefined || Math.abs(by.value - write.value) < SAME ? [] : [{ write, by }];
  });
}

/** Another lane; or, in one lane, what the entered state holds against what was done on the way in. */
const isAnother = (write: Write, later: Write): boolean =>
  write.lane !== later.lane || (/ (do|enter)$/.test(write.author) && / (hold|tether)$/.test(later.author));

/** Channels, as sentences name them. */
export const CHANNEL_WORDS: Record<Write['channel'], string> = {
  vx: 'vx',
  vy: 'vy',
  gravity: 'gravity',
  facing: 'the facing',
  stance: 'the stance',
};

function handSign(machine: Machine, { tick, leaves, taken }: TickRecord, { write, by }: Lost): Sign {
  const lane = machine.lanes[write.lane]!;
  const state = machine.states[leaves[write.lane]!]!;
  const crossing = taken.find((t) => t.lane === write.lane)?.crossing;
  const what = (w: Write): string =>
    w.channel === 'stance' ? machine.stances[w.value]!.name : String(Math.round(w.value * 100) / 100);
  const other = write.lane === by.lane ? '' : ` of the lane ${machine.lanes[by.lane]!.name}`;
  return {
    code: 'AG2',
    lane: lane.name,
    state: state.name,
    crossing:
      crossing === undefined
        ? null
        : {
            from: machine.states[taken.find((t) => t.lane === write.lane)!.from]!.name,
            to: machine.states[crossing.to]!.name,
            index: crossing.index,
          },
    sentence: `${write.author} and ${by.author}${other} both write ${CHANNEL_WORDS[write.channel]} in one tick: what ${write.author} writes is lost before it moves anything.`,
    reason: [
      `${write.author} set ${CHANNEL_WORDS[write.channel]} to ${what(write)}, and ${by.author} to ${what(by)}.`,
    ],
    tick,
    path: crossing?.path ?? state.path,
    fingerprint: `AG2/${write.channel}/${write.author}/${by.author}`,
  };
}
