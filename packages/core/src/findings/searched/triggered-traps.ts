import type { Scout } from '../../scout/index.js';
import { type Finding, restated } from '../sentences/finding.js';
import { projectionOf, type Trap } from '../proved/skeleton/index.js';
import { shrunk, witnessTape } from './witness.js';

/** Something that the skeleton suspects, and the first way that came there. */
export interface TriggeredTrap {
  scout: Scout;
  trap: Trap;
  inputs: number[][];
  start: number;
}

/** Notes the first way into each trap that the skeleton suspects. */
export function watchTraps(scout: Scout, traps: readonly Trap[], triggered: TriggeredTrap[]): void {
  for (const trap of traps) {
    const project = projectionOf(trap.skeleton.slice.digits, scout.fast.layout);
    const values: number[] = [];
    scout.watch((s, { parent, wayThere }) => {
      // A trap is something that a move leads into.
      if (parent < 0 || triggered.some((known) => known.trap === trap)) return;
      project(s, values);
      const place = trap.skeleton.find(values);
      if (place !== undefined && trap.places.has(place)) triggered.push({ scout, trap, ...wayThere() });
    });
  }
}

/** A trap that a way leads into: what leads out is ruled out by the skeleton, whatever is pressed. */
export function triggeredFinding({ scout, trap, ...way }: TriggeredTrap): Finding {
  const { finding, skeleton, places } = trap;
  const project = projectionOf(skeleton.slice.digits, scout.fast.layout);
  const values: number[] = [];
  const { start, inputs } = shrunk(scout, way, (_, s) => {
    project(s, values);
    const place = skeleton.find(values);
    return place !== undefined && places.has(place);
  });
  const tape = `${finding.code} ${finding.state}`;
  const tick = inputs.length - 1;
  const seen = restated(finding, { certainty: 'witnessed', witness: { tape, tick } });
  const text = witnessTape(scout, { start, inputs }, tape, seen.sentence, tick);
  return { ...seen, witness: { tape, tick, text } };
}
