import { present } from '../../present.js';
import type { EstablishedOf } from './finding.js';
import { listed, NO_RUN, type Words } from './words.js';

const CHANNELS = { vx: 'vx', vy: 'vy', gravity: 'gravity', facing: 'the facing', stance: 'the stance' };

/** What cannot agree. */
export function wordsOfConflict(f: EstablishedOf<'AG1' | 'AG2' | 'AG3' | 'AG4' | 'AG5' | 'AG6'>): Words {
  const { state, lane } = f;
  const suspected = f.certainty === 'suspected';
  switch (f.code) {
    case 'AG1': {
      const { crossings, rank, press } = f.evidence;
      const targets = crossings.map((c) => c.to);
      const when = press === null ? 'in the same tick' : `on the same press of ${press}`;
      return {
        sentence: `In ${state}, ${listed(targets)} ${suspected ? 'may open' : 'open'} ${when}; only their order in the file decides.`,
        reason: suspected
          ? [
              `Nothing in their guards keeps them apart, both have rank ${rank}, and ${targets[0]} stands first.`,
              NO_RUN,
            ]
          : [`${listed(targets)} were open with rank ${rank}; ${targets[0]} stands first and was taken.`],
      };
    }
    case 'AG2': {
      const { channel, first, last } = f.evidence;
      const what = CHANNELS[channel];
      const other = first.lane === last.lane ? '' : ` of the lane ${last.lane}`;
      return {
        sentence: `${first.by} and ${last.by}${other} ${suspected ? 'may both' : 'both'} write ${what} in one tick: what ${first.by} writes is lost before it moves anything.`,
        reason: suspected
          ? [
              `${first.by} sets ${what} to \`${first.value}\`; ${last.by}, later in the tick, to \`${last.value}\`.`,
              NO_RUN,
            ]
          : [`${first.by} set ${what} to ${first.value}, and ${last.by} to ${last.value}.`],
      };
    }
    case 'AG3': {
      const { key, controls, states } = f.evidence;
      const who =
        states.length === 1
          ? `${states[0]} listens to both`
          : `${states[0]} listens to the one while ${states[1]} listens to the other`;
      return {
        sentence: `${key} drives both ${controls[0]} and ${controls[1]}, and ${who}: one cannot be pressed without the other.`,
        reason: [`${controls[0]} and ${controls[1]} are both bound to ${key}.`],
      };
    }
    case 'AG4': {
      const [a, b] = f.evidence.states;
      if (a === b) return reenteredWords(f);
      return {
        sentence: `${a} and ${b} flicker: the lane ${lane} goes back and forth between them while no control changes.`,
        reason: [
          `four crossings between ${a} and ${b} within ${f.evidence.ticks} ticks, with the same controls held.`,
        ],
      };
    }
    case 'AG5': {
      const { states, steps, asksForNothing } = f.evidence;
      const names = states.join(' and ');
      const stops = `only the step limit stops the lane ${lane}.`;
      if (steps !== null)
        return {
          sentence: `${names} form a loop within one tick: ${stops}`,
          reason: [`${steps} crossings were taken in one tick, and the next one was open too.`],
        };
      const decided = `${names} ${states.length === 1 ? 'is a passing state' : 'are passing states'}: all of their crossings are decided on the facts of one tick.`;
      return asksForNothing
        ? {
            sentence: `${names} form a loop within one tick whenever they are entered: ${stops}`,
            reason: [decided, 'The crossings between them ask for nothing.'],
          }
        : {
            sentence: `${names} may form a loop within one tick: nothing keeps all their guards from holding at once.`,
            reason: [decided, NO_RUN],
          };
    }
    case 'AG6': {
      const { timer, waiting, left } = f.evidence;
      return {
        sentence: `${state} of the lane ${lane} restarts ${timer} while ${waiting} still waits for it.`,
        reason: [`${timer} had ${left} ticks left for ${waiting} when it was started again.`],
      };
    }
  }
}

/** A state that is entered again every tick. */
function reenteredWords({ state, crossing, certainty, evidence: { held } }: EstablishedOf<'AG4'>): Words {
  const from = present(crossing).from === state ? 'itself' : present(crossing).from;
  const may = certainty === 'suspected' ? 'may be' : 'is';
  const when =
    held.length === 0
      ? 'while its guard holds'
      : `while ${listed(held)} ${held.length === 1 ? 'is' : 'are'} held`;
  return {
    sentence: `${state} ${may} entered again every tick ${when}: the crossing from ${from} leads back to where the lane is.`,
    reason: [
      `what ${state} does on entry is done again every tick, and its time never gets beyond the first.`,
      ...(certainty === 'suspected' ? [NO_RUN] : []),
    ],
  };
}
