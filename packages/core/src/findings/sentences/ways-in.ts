import { present } from '../../present.js';
import type { ClosedWay } from '../catalogue/evidence.js';
import type { EstablishedOf } from './finding.js';
import { crossingWords, hindranceWords, listed, quoted, wayLines, type Words } from './words.js';

/** What cannot be got into. */
export function wordsOfWaysIn(f: EstablishedOf<'IN1' | 'IN2' | 'IN3' | 'IN4' | 'IN5' | 'IN6'>): Words {
  const { state, lane, crossing } = f;
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
    case 'IN6': {
      const { zone, ability, course, searched } = f.evidence;
      const what = `${zone} on ${course}, which unlocks ${ability}`;
      if (searched === null)
        return {
          sentence: `The body never comes to the zone ${what}.`,
          reason: ['No way from any spawn to the zone has room for the body in any stance.'],
        };
      const { situations, nearest } = searched;
      return {
        sentence: `The zone ${what}, was not reached in ${situations.toLocaleString('en')} situations.`,
        reason: [`The nearest that the feet came to it was ${nearest.toFixed(2)} m.`],
      };
    }
  }
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
