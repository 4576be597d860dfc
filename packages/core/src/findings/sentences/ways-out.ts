import type { ClosedWay } from '../catalogue/evidence.js';
import type { EstablishedOf } from './finding.js';
import {
  hindranceWords,
  NO_RUN,
  quoted,
  valueWords,
  wayLines,
  whileWords,
  type Words,
  writersWords,
} from './words.js';

/** What cannot be got out of. */
export function wordsOfWaysOut(f: EstablishedOf<'OUT1' | 'OUT2' | 'OUT3' | 'OUT4' | 'OUT5' | 'OUT6'>): Words {
  const { state, lane, crossing } = f;
  const suspected = f.certainty === 'suspected';
  switch (f.code) {
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
  }
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
