import { present } from '../../present.js';
import type { ClosedWay, Evidence } from '../catalogue/evidence.js';
import type { Established, EstablishedOf } from './finding.js';
import { listed, hindranceWords, quoted, valueWords, wayLines, whileWords, writersWords } from './words.js';

/** What people read of a fault: a sentence, and the lines of its reason. */
export interface Words {
  sentence: string;
  reason: string[];
}

const NO_RUN = 'No run has come there yet.';

const CHANNELS = { vx: 'vx', vy: 'vy', gravity: 'gravity', facing: 'the facing', stance: 'the stance' };

/** The words of a fault. What was seen in a run names the tape and the tick first. */
export function wordsOf(f: Established): Words {
  const words = plainWords(f);
  if (f.witness === null || f.code === 'IN4' || f.code === 'RK5') return words;
  const [first, ...rest] = words.reason;
  return {
    ...words,
    reason: [`Tape “${f.witness.tape}”, tick ${f.witness.tick}: ${first ?? words.sentence}`, ...rest],
  };
}

/** A crossing at the beginning of a sentence. */
function crossingWords(crossing: Established['crossing']): string {
  const { from, to } = present(crossing);
  return `The crossing from ${from} to ${to}`;
}

function plainWords(f: Established): Words {
  const { state, lane, crossing } = f;
  const suspected = f.certainty === 'suspected';
  switch (f.code) {
    case 'IN1': {
      const { ring } = f.evidence;
      if (ring.length === 0)
        return {
          sentence: `${state} can never be entered: no crossing leads to it.`,
          reason: [
            `The lane ${lane} has no crossing with ${state} or a group that starts in it as its target.`,
          ],
        };
      const why = ring.length === 1 ? 'what leads to it can never be taken' : 'they lead only to each other';
      return {
        sentence: `${ring.join(', ')} can never be entered: ${why}.`,
        reason: ['No crossing that can be taken leads in from a state that can be entered.'],
      };
    }
    case 'IN2':
    case 'IN3': {
      const { ways } = f.evidence;
      const also =
        f.code === 'IN2' && f.evidence.also.length > 0 ? [`With it: ${f.evidence.also.join(', ')}.`] : [];
      if (f.code === 'IN2' && f.evidence.waits.length > 0) return waitingWords(f.evidence.waits, ways);
      return {
        sentence: `${state} can never be entered: ${entranceWords(ways)}.`,
        reason: [...ways.flatMap(wayLines), ...also],
      };
    }
    case 'IN4': {
      const { situations, courses, approaches } = f.evidence;
      const tried = `${situations.toLocaleString('en')} situations on ${courses.join(', ')}`;
      return {
        sentence:
          crossing === null
            ? `${state} was not reached in ${tried}.`
            : `The crossing from ${crossing.from} to ${crossing.to} was not taken in ${tried}.`,
        reason: approaches.map(({ from, to, nearest }) => {
          if (nearest === null) return `${from} → ${to}: ${from} itself was never entered.`;
          const where = `after ${nearest.ticks} ticks from ${nearest.start}`;
          if (nearest.ticks === 0) return `${from} → ${to}: it was never open.`;
          return nearest.missing.length === 0
            ? `${from} → ${to}: its guard held ${where}, but the crossing was refused or another came first.`
            : `${from} → ${to}: nearest ${where}; missing was ${nearest.missing.map(quoted).join(' and ')}.`;
        }),
      };
    }
    case 'IN5': {
      const { hindrance } = present(f.evidence.ways[0]);
      return {
        sentence: `${crossingWords(crossing)} can never be taken: it ${hindranceWords(hindrance)}.`,
        reason: f.evidence.ways.flatMap(wayLines),
      };
    }
    case 'OUT1':
      return {
        sentence: `${state} can never be left: no crossing leads out of it, and it is not final.`,
        reason: [
          `The lane ${lane} has no crossing from ${state}, from a group around it, or from everywhere, that leads elsewhere.`,
        ],
      };
    case 'OUT2':
      return {
        sentence: `${state} can never be left: ${exitWords(f.evidence.ways)}.`,
        reason: f.evidence.ways.flatMap(wayLines),
      };
    case 'OUT3': {
      if (f.evidence.kind === 'place') {
        const { at, exits } = f.evidence;
        return {
          sentence: `${state} is a trap at x ${at.x.toFixed(1)} m, y ${at.y.toFixed(1)} m of ${at.course}: no input leads out of it.`,
          reason: searchedLines(state, at, exits),
        };
      }
      const { values, ways } = f.evidence;
      const when = whileWords(values);
      const is = suspected ? 'may become a trap' : 'is a trap';
      const why = exitWords(ways).replace(' always ', ' ');
      return {
        sentence: `${state} ${is}${when === '' ? '' : `: while ${when}, nothing leads out`}; ${why}.`,
        reason: [
          ...(suspected ? [] : ['from here on nothing that is pressed, on any course, leads out.']),
          ...ways.flatMap(wayLines),
          ...(suspected ? [NO_RUN] : []),
        ],
      };
    }
    case 'OUT4': {
      if (f.evidence.kind === 'home') {
        const { lost, values } = f.evidence;
        const home = f.evidence.homes.join(' or ');
        if (values.length > 0)
          return {
            sentence: `Once ${whileWords(values)} there is no way back to ${home}: from then on only ${lost.join(', ')} can be reached.`,
            reason: [
              `${home} is declared a home; while ${whileWords(values)}, which lasts for good, no crossing that can be taken leads back to it.`,
            ],
          };
        return {
          sentence: `After ${lost[0]} there is no way back to ${home}: from there only ${lost.slice(1).join(', ')} can be reached.`,
          reason: [
            `${home} is declared a home; no crossing out of ${lost.join(', ')} that can be taken leads back to it.`,
          ],
        };
      }
      const { control, listeners, values } = f.evidence;
      const when = whileWords(values);
      const heard = `${control} is listened to in ${listeners.join(', ')}; none of that can come about again.`;
      if (f.certainty === 'proved')
        return {
          sentence: `From ${state} on, ${control} no longer does anything: no state that can follow listens to it.`,
          reason: [heard],
        };
      return {
        sentence: `${control} ${suspected ? 'may be' : 'is'} lost: in ${state}${when === '' ? '' : `, while ${when}`}, it no longer does anything, there or later.`,
        reason: suspected
          ? [heard, NO_RUN]
          : [`from here on ${control} does nothing, whatever else is pressed, on any course.`, heard],
      };
    }
    case 'OUT5': {
      const { thing, start, end, uses, to, writers } = f.evidence;
      const isSpent = end.kind === 'count' && end.value === 0;
      const after = uses === null ? 'in the end' : `after ${uses === 1 ? 'one use' : `${uses} uses`}`;
      const closed = `and the crossing from ${crossing?.from} to ${to} never opens again`;
      return {
        sentence: isSpent
          ? uses === null
            ? `${thing} runs dry: nothing gives it back, ${closed} once it is used up.`
            : `${thing} runs dry: ${after} nothing gives it back, ${closed}.`
          : `${thing} locks itself: ${after} ${valueWords(end)} for good, ${closed}.`,
        reason: [
          `${valueWords(start).replace(' is ', ' is at first ')}, and nothing but ${writersWords(writers)} writes it.`,
        ],
      };
    }
    case 'OUT6': {
      const { at, stance, exits } = f.evidence;
      return {
        sentence: `${state} is cramped at x ${at.x.toFixed(1)} m, y ${at.y.toFixed(1)} m of ${at.course}: ${stance} does not fit there, and nothing else leads out.`,
        reason: searchedLines(state, at, exits),
      };
    }
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
    case 'RK1':
      return {
        sentence: `${state} can be entered again and again in one flight, higher each time: nothing limits the climb.`,
        reason: [
          `the crossing to ${state} was taken ${f.evidence.times} times without touching ground, each time higher.`,
        ],
      };
    case 'RK2':
      return {
        sentence: `Holding ${f.evidence.control} takes the crossing to ${present(crossing).to} again and again, though it launches like a single press.`,
        reason: [`it was taken ${f.evidence.times} times while ${f.evidence.control} was never let go.`],
      };
    case 'RK3': {
      if (f.evidence.kind === 'nextTick') return undoneWords(f, f.evidence);
      const { by, speed, rise, later } = f.evidence;
      const why = later === null ? 'the body stayed on the ground' : `${later} took it back`;
      return {
        sentence: `The launch into ${state} is lost: it sets vy to ${speed.toFixed(1)} m/s, and ${why} in the same tick.`,
        reason: [
          `${by} set vy to ${speed.toFixed(2)} m/s, and the feet rose by ${(rise * 100).toFixed(1)} cm.`,
        ],
      };
    }
    case 'RK4': {
      const { probe, stances, x, y, reach } = f.evidence;
      return {
        sentence: `The probe ${probe} ends inside the body in ${stances.join(' and ')}: it never reaches beyond it, and ${state} asks for it.`,
        reason: [`It begins at ${x} m, ${y} m from the feet and reaches ${reach} m.`],
      };
    }
    case 'RK5': {
      const { tape, own, rate, failed } = f.evidence;
      return {
        sentence: `The tape ${tape} plays differently at ${rate} ticks per second: ${quoted(failed[0] ?? '')} fails.`,
        reason: failed.map(
          (text) => `${quoted(text)} holds at ${own} ticks per second and fails at ${rate}.`,
        ),
      };
    }
    case 'RK6': {
      const { from, to, anchor, rise } = f.evidence;
      return {
        sentence: `Changing from ${from} to ${to} in ${state} leaves the ground: ${to} is anchored at the ${anchor}, so the feet are lifted.`,
        reason: [
          `the feet rose by ${(rise * 100).toFixed(0)} cm with the change, and the body was airborne.`,
        ],
      };
    }
    case 'RK7':
      return {
        sentence: `${f.evidence.by} climbs ground that is steeper than walkable, from touch to touch.`,
        reason: [
          `it came down ${f.evidence.gain.toFixed(1)} m higher on the slope, and stood on nothing in between.`,
        ],
      };
    case 'RK8': {
      const { from, to, was, is } = f.evidence;
      return {
        sentence: `Going from ${from} to ${to} cuts the speed by ${(Math.abs(was) - Math.abs(is)).toFixed(1)} m/s in one tick.`,
        reason: [`vx went from ${was.toFixed(1)} to ${is.toFixed(1)} m/s with nothing in the way.`],
      };
    }
    case 'RK9':
      return {
        sentence: `${f.evidence.from} ends while the body is still inside a solid.`,
        reason: [`the crossing to ${f.evidence.to} was taken while the body was caught.`],
      };
    case 'RK10':
      return {
        sentence: `In ${state}, pushing against a wall in the air stops the fall, and nothing in the state says so.`,
        reason: [`the body hung at one height for ${f.evidence.ticks} ticks.`],
      };
    case 'TD1':
      return { sentence: present(UNREAD[f.evidence.kind])(f.evidence.name), reason: [] };
    case 'TD2':
      return { sentence: present(UNWRITTEN[f.evidence.kind])(f.evidence.name), reason: [] };
    case 'TD3':
      return { sentence: `The control ${f.evidence.name} has no key and no pad button.`, reason: [] };
    case 'TD4': {
      const [a, b] = f.evidence.guards;
      return {
        sentence: `${crossingWords(crossing)} is defined twice.`,
        reason: [`${quoted(a)} and ${quoted(b)} hold at the same times.`],
      };
    }
    case 'TD5': {
      const { term, by } = f.evidence;
      return term === by
        ? { sentence: `The guard asks for ${quoted(term)} twice.`, reason: [] }
        : {
            sentence: `The guard need not ask for ${quoted(term)}.`,
            reason: [`Whenever ${quoted(by)} holds, ${quoted(term)} holds too.`],
          };
    }
    case 'TD6':
      return {
        sentence: `${quoted(f.evidence.term)} never decides anything: it cannot come to hold there.`,
        reason: [],
      };
    case 'TD7': {
      const side = f.evidence.side === 'below' ? 'below the least' : 'above the most';
      return { sentence: `The dial ${f.evidence.name} is ${side} that its own range allows.`, reason: [] };
    }
    case 'TD8': {
      const { field, where, because } = f.evidence;
      return { sentence: `${quoted(field)} has no effect in ${where}: ${because}.`, reason: [] };
    }
  }
}

const UNREAD: Record<string, (name: string) => string> = {
  dial: (name) => `Nothing is worked out from the dial ${name}.`,
  variable: (name) => `Nothing reads the variable ${name}.`,
  timer: (name) => `Nothing reads the timer ${name}.`,
  cooldown: (name) => `Nothing asks whether ${name} is ready.`,
  probe: (name) => `Nothing asks for the probe ${name}.`,
  stance: (name) => `No state takes the stance ${name}.`,
  ability: (name) => `No state or crossing needs the ability ${name}.`,
  control: (name) => `Nothing listens to the control ${name}.`,
  event: (name) => `No lane hears the event ${name}: it is raised, and no guard asks for it.`,
};

const UNWRITTEN: Record<string, (name: string) => string> = {
  variable: (name) => `Nothing ever writes ${name}.`,
  timer: (name) => `Nothing ever starts the timer ${name}.`,
  cooldown: (name) => `Nothing ever spends the cooldown ${name}.`,
};

/** A launch that another lane undoes from the next tick on. */
function undoneWords(
  { certainty }: EstablishedOf<'RK3'>,
  { by, channel, value, hold }: Extract<Evidence['RK3'], { kind: 'nextTick' }>,
): Words {
  const may = certainty === 'suspected' ? 'may be' : 'is';
  return {
    sentence: `What ${by} sets ${CHANNELS[channel]} to ${may} undone one tick later: ${hold.by} of the lane ${hold.lane} yields only in the tick of the launch.`,
    reason: [
      `${by} sets ${CHANNELS[channel]} to ${quoted(value)}; from the next tick on ${hold.by} holds it at ${quoted(hold.value)}.`,
      ...(certainty === 'suspected' ? [NO_RUN] : []),
    ],
  };
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

/** States of several lanes that wait for each other. */
function waitingWords(
  waits: readonly { state: string; lane: string; asks: string }[],
  ways: readonly ClosedWay[],
): Words {
  const names = listed(waits.map((w) => w.state));
  const asks = listed(waits.map((w) => `the way into ${w.state} asks for ${quoted(w.asks)}`));
  return {
    sentence: `${names} wait for each other, so none of them can ever be entered: ${asks}.`,
    reason: [
      ...waits.map(
        (w) => `${w.state} of the lane ${w.lane} can only be entered while ${quoted(w.asks)} holds.`,
      ),
      ...ways.flatMap(wayLines),
    ],
  };
}

/** Why a state cannot be entered, by the first of its ways in. */
function entranceWords(ways: readonly ClosedWay[]): string {
  const first = present(ways[0]);
  const from = first.hindrance.kind === 'blocked' ? first.state : first.crossing.from;
  const which =
    ways.length === 1
      ? `its only way in, from ${from},`
      : `none of its ${ways.length} ways in can ever open; the one from ${from}`;
  return `${which} ${hindranceWords(first.hindrance)}`;
}

/** Why a state cannot be left, by the first of its ways out. */
function exitWords(ways: readonly ClosedWay[]): string {
  const [first] = ways;
  if (first === undefined) return 'nothing leads out';
  const { hindrance, crossing } = first;
  const { to } = crossing;
  if (hindrance.kind === 'blocked') return `its way out to ${to} ${hindranceWords(hindrance)}`;
  const which =
    ways.length === 1
      ? `its only way out, to ${to},`
      : `none of its ${ways.length} ways out can ever be taken; the one to ${to}`;
  const again = hindrance.kind === 'overshadowed' ? ', so it is only entered again and again' : '';
  return `${which} ${hindranceWords(hindrance)}${again}`;
}

const searchedLines = (
  state: string,
  { ticks, situations }: { ticks: number; situations: number },
  exits: readonly { to: string; when: string | null }[],
): string[] => [
  `from here everything was tried up to ${ticks} ticks ahead, ${situations} situations, and ${state} was never left.`,
  ...exits.map(
    ({ to, when }) =>
      `${state} → ${to} asks for ${when === null ? 'nothing, but was refused' : quoted(when)}.`,
  ),
];
