import type { Machine } from '@glenmark/core/machine';
import { lostPress, type LostPress, type Trace } from '@glenmark/core/run';
import { KINDS } from '../../../shared/ui/kind-mark';

/** How long a crossing that was taken flashes, and a press that opened nothing is shown (s). */
const FLASH = 0.4;
const SHOWN = 3;

/** A lane as it is at a tick: its state, and the crossing that it took within the last moments. */
export interface LaneNow {
  lane: string;
  state: string;
  colour: string;
  taken: string | undefined;
}

export function takenNow({ machine, records }: Trace, tick: number): LaneNow[] {
  const last = records.slice(Math.max(0, tick + 1 - Math.round(FLASH * machine.rate)), tick + 1);
  return machine.lanes.map((lane, i) => {
    const leaf = records[tick]?.leaves[i] ?? lane.initial;
    const state = machine.states[leaf]!;
    const taken = last.flatMap((r) => r.taken).findLast((t) => t.lane === i);
    return {
      lane: lane.name,
      state: state.name,
      colour: `var(--${KINDS[state.kind].colour})`,
      taken: taken && `${nameOf(machine, taken.from)} → ${nameOf(machine, taken.to)}`,
    };
  });
}

/** The latest press of the last moments that opened nothing, in a sentence. */
export function lostPressNow(
  trace: Trace,
  tick: number,
): { tick: number; control: string; why: string } | undefined {
  const { machine } = trace;
  const first = Math.max(0, tick - Math.round(SHOWN * machine.rate));
  for (let at = tick; at >= first; at--) {
    for (const [i, control] of machine.controls.entries()) {
      if (control.kind !== 'button') continue;
      const lost = lostPress(trace, i, at, tick);
      if (lost !== undefined) return { tick: at, control: lost.control, why: whyLost(lost) };
    }
  }
  return undefined;
}

function whyLost({ control, nearest }: LostPress): string {
  if (nearest === undefined) return $localize`No crossing out of these states asks for ${control}.`;
  const way = `${nearest.from} → ${nearest.to}`;
  const reasons = {
    closed: $localize`it needs ${new Intl.ListFormat('en').format(nearest.missing)}.`,
    locked: $localize`its ability is locked.`,
    noRoom: $localize`there was no room for it.`,
    lost: $localize`another crossing came first.`,
  };
  return $localize`The nearest was ${way}\: ${reasons[nearest.verdict]}`;
}

const nameOf = (machine: Machine, state: number): string => machine.states[state]?.name ?? '';
