import { place } from '../../machine/index.js';
import { present } from '../../present.js';
import { type Box, distanceTo, type Scout, type Survey, type Way } from '../../scout/index.js';
import type { Finding } from '../sentences/finding.js';
import { type Unlocker, unlockersOf, zoneFinding } from '../proved/place/index.js';
import { witnessTape } from './witness.js';

/** A zone that was not come to: how near the feet came (m), and the way there. */
export interface NotCome extends Unlocker {
  nearest: number;
  way: Way;
}

/** The same while it is searched for. */
interface Open extends Unlocker {
  /** Whether nothing else on the course unlocks the same: then the ability tells later, too, that it was come to. */
  isOnly: boolean;
  box: Box;
  nearest: number;
  way: () => Way;
}

/** The zones that unlock something, as far as a search has come. */
export interface Unlockers {
  notComeTo(): NotCome[];
  /** Zones by their places among those of the course. */
  comeTo(): number[];
}

/** Watches which of the zones that unlock something a scout comes to. */
export function watchUnlockers(scout: Scout): Unlockers {
  const { machine, course, fast } = scout;
  const all = unlockersOf(machine, course);
  let open = all.map((unlocker): Open => ({
    ...unlocker,
    isOnly: all.filter((other) => other.ability === unlocker.ability).length === 1,
    box: boxOf(present(course.zones[unlocker.zone]).polygon),
    nearest: Infinity,
    way: () => ({ start: 0, inputs: [] }),
  }));
  const isReached = (s: Float64Array, { zone, ability, isOnly }: Open): boolean =>
    s[fast.layout.zones + zone] !== 0 || (isOnly && s[fast.layout.unlocked + ability] === 1);
  scout.watch((s, { wayThere }) => {
    if (open.length === 0) return;
    if (open.some((unlocker) => isReached(s, unlocker)))
      open = open.filter((unlocker) => !isReached(s, unlocker));
    for (const unlocker of open) {
      const distance = distanceTo(unlocker.box, present(s[place.X]), present(s[place.Y]));
      if (distance < unlocker.nearest) Object.assign(unlocker, { nearest: distance, way: wayThere });
    }
  });
  return {
    notComeTo: () =>
      open.flatMap(({ zone, ability, nearest, way }) =>
        nearest < Infinity ? [{ zone, ability, nearest, way: way() }] : [],
      ),
    comeTo: () => all.flatMap(({ zone }) => (open.some((other) => other.zone === zone) ? [] : [zone])),
  };
}

/** IN6 of a zone that was not come to. */
export function notComeFinding(survey: Survey, unlocker: NotCome): Finding {
  const { machine, course } = survey;
  const { way } = unlocker;
  const searched = {
    situations: survey.progress().situations,
    nearest: Math.round(unlocker.nearest * 100) / 100,
  };
  const plain = zoneFinding(machine, course, unlocker, searched);
  if (way.inputs.length === 0) return plain;
  const tape = `Nearest to the zone ${present(course.zones[unlocker.zone]).name}`;
  const tick = way.inputs.length - 1;
  const text = witnessTape(survey, way, tape, plain.sentence, tick);
  return { ...plain, witness: { tape, tick, text } };
}

function boxOf(polygon: Float64Array): Box {
  const [xs, ys] = [polygon.filter((_, i) => i % 2 === 0), polygon.filter((_, i) => i % 2 === 1)];
  return { minX: Math.min(...xs), maxX: Math.max(...xs), minY: Math.min(...ys), maxY: Math.max(...ys) };
}
