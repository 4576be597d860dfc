import { present } from '../../present.js';
import type { Evidence } from '../catalogue/evidence.js';
import type { EstablishedOf } from './finding.js';
import { NO_RUN, quoted, type Words } from './words.js';

/** What looks risky. */
export function wordsOfRisk(
  f: EstablishedOf<'RK1' | 'RK2' | 'RK3' | 'RK4' | 'RK5' | 'RK6' | 'RK7' | 'RK8' | 'RK9' | 'RK10' | 'RK11'>,
): Words {
  const { state, crossing } = f;
  switch (f.code) {
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
    case 'RK11':
      return {
        sentence: `From the spawn ${f.evidence.spawn} of ${f.evidence.course} the body comes nowhere: to no other spawn and no zone, nor out.`,
        reason: ['No way out of there has room for the body in any stance.'],
      };
  }
}

/** A launch that another lane undoes from the next tick on. */
function undoneWords(
  { certainty }: EstablishedOf<'RK3'>,
  { by, channel, value, hold }: Extract<Evidence['RK3'], { kind: 'nextTick' }>,
): Words {
  const may = certainty === 'suspected' ? 'may be' : 'is';
  return {
    sentence: `The ${channel} that ${by} sets ${may} undone one tick later: the lane ${hold.lane} yields it only in the tick of the launch, and then ${hold.by} holds it.`,
    reason: [
      `${by} sets ${channel} to ${quoted(value)}; from the next tick on ${hold.by} holds it at ${quoted(hold.value)}.`,
      ...(certainty === 'suspected' ? [NO_RUN] : []),
    ],
  };
}
